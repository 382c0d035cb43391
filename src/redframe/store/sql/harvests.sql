-- name: harvests_of_colonies
SELECT h.id, h.colony_id, c.label, c.apiary_id, a.name AS apiary, h.harvested_on, h.honey_for, h.honey_kg, h.batch, h.note,
       h.override_by, h.override_why, h.withdrawn_why,
       coalesce((SELECT name FROM member WHERE member.id = h.by_person), '') AS by_name
FROM harvest h JOIN colony c ON c.id = h.colony_id JOIN apiary a ON a.id = c.apiary_id
WHERE h.colony_id = ANY(:colony_ids) ORDER BY h.harvested_on DESC, h.created_at DESC, h.id LIMIT 200;

-- name: harvest
SELECT h.id, h.colony_id, c.label, c.apiary_id, a.name AS apiary, h.harvested_on, h.honey_for, h.honey_kg, h.batch, h.note,
       h.override_by, h.override_why, h.withdrawn_why,
       coalesce((SELECT name FROM member WHERE member.id = h.by_person), '') AS by_name
FROM harvest h JOIN colony c ON c.id = h.colony_id JOIN apiary a ON a.id = c.apiary_id WHERE h.id = :id;

-- name: add_harvest
INSERT INTO harvest (id, association_id, colony_id, harvested_on, honey_for, honey_kg, batch, note, override_by, override_why, by_person)
VALUES (:id, my_association(), :colony_id, :harvested_on, :honey_for, :honey_kg, :batch, :note, :override_by, :override_why,
        my_person());

-- name: withdraw_harvest
UPDATE harvest SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';
