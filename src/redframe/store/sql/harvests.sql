-- name: harvests_of_colony
SELECT id, colony_id, harvested_on, honey_for, honey_kg, batch, note, override_by, override_why, withdrawn_why,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM harvest WHERE colony_id = :colony_id ORDER BY harvested_on DESC, created_at DESC, id LIMIT 200;

-- name: add_harvests
-- `harvests` is a JSON list.
INSERT INTO harvest (id, association_id, colony_id, harvested_on, honey_for, honey_kg, batch, note, override_by, override_why, by_person)
SELECT h.id, my_association(), h.colony_id, h.harvested_on, h.honey_for, h.honey_kg, h.batch, h.note, h.override_by,
       h.override_why, my_person()
FROM jsonb_to_recordset(:harvests) AS h (id uuid, colony_id uuid, harvested_on date, honey_for text,
    honey_kg double precision, batch text, note text, override_by text, override_why text);

-- name: harvest_is_there
SELECT id FROM harvest WHERE id = :id;

-- name: withdraw_harvest
UPDATE harvest SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';
