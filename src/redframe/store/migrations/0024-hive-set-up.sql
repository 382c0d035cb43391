-- Whether honey supers were left on by the act that closes the hive for a course: some labels allow it.
ALTER TABLE course_act ADD COLUMN supers_on boolean;
