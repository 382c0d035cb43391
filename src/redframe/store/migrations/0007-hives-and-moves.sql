-- The boxes of a hive over time: a box that is taken off keeps the days on which it stood there, so that a count or a
-- dose of last season can be read against the hive of last season.

ALTER TABLE hive ADD COLUMN version integer NOT NULL DEFAULT 1,
    ADD COLUMN laid_at timestamptz NOT NULL DEFAULT now();   -- when its boxes were last recorded: every change is a version
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON hive FOR EACH ROW EXECUTE FUNCTION keep_trail('');

ALTER TABLE hive_box DROP CONSTRAINT hive_box_pkey,
    ADD COLUMN since date, ADD COLUMN until date, ADD CHECK (until >= since);
UPDATE hive_box b SET since = coalesce(
    (SELECT min(e.happened_on) FROM colony c JOIN colony_event e ON e.colony_id = c.id WHERE c.hive_id = b.hive_id),
    current_date);
ALTER TABLE hive_box ALTER COLUMN since SET NOT NULL;
CREATE UNIQUE INDEX hive_box_standing ON hive_box (hive_id, position) WHERE until IS NULL;
CREATE INDEX hive_box_by_hive ON hive_box (hive_id, since);
REVOKE DELETE ON hive_box FROM redframe_app;
DROP POLICY relaid ON hive_box;

-- A colony that moves takes its open course along: the course's place is where the colony stands now; where it was
-- planned stays on the course itself.
CREATE OR REPLACE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id,
       t.policy_version, t.start_on, t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on,
       t.ended_on, t.honey_clear_on, t.suitability, t.overrides, t.verdict, t.abandoned_why, t.by_person, t.made_at, t.version
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;
