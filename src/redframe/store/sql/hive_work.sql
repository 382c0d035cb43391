-- name: hive_acts
SELECT id, colony_id, course_id, act, done_on, details, fed, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM hive_act WHERE course_id = :course_id AND withdrawn_why = '' ORDER BY done_on, created_at, id;

-- name: add_hive_act
INSERT INTO hive_act (id, association_id, colony_id, course_id, act, done_on, details, fed, note, by_person)
VALUES (:id, my_association(), :colony_id, :course_id, :act, :done_on, :details, :fed, :note, my_person());

-- name: hive_act
SELECT course_id FROM hive_act WHERE id = :id;

-- name: withdraw_hive_act
UPDATE hive_act SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';

-- name: fed_in_courses
-- Days on which colonies were fed as part of a course, since a day.
SELECT colony_id, done_on FROM hive_act
WHERE colony_id = ANY(:colony_ids) AND fed AND withdrawn_why = '' AND done_on >= :since;
