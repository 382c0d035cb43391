-- name: add_pest_check
INSERT INTO pest_check (id, association_id, apiary_id, colony_id, pest, seen_on, score, counted, answer, done, look_from, look_by, disease_by, note, by_person)
VALUES (:id, my_association(), :apiary_id, :colony_id, :pest, :seen_on, :score, :counted, :answer, :done, :look_from, :look_by, :disease_by, :note, my_person());

-- name: withdraw_pest_check
UPDATE pest_check SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';

-- name: pest_check_by_id
SELECT id, apiary_id, colony_id, pest, seen_on, score, counted, answer, done, look_from, look_by, disease_by, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM pest_check WHERE id = :id;

-- name: pest_checks_of_colony
SELECT id, apiary_id, colony_id, pest, seen_on, score, counted, answer, done, look_from, look_by, disease_by, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM pest_check WHERE colony_id = :colony_id AND withdrawn_why = '' ORDER BY seen_on DESC, created_at DESC LIMIT :most;

-- name: pest_checks_in_store
SELECT id, apiary_id, colony_id, pest, seen_on, score, counted, answer, done, look_from, look_by, disease_by, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM pest_check WHERE apiary_id = :apiary_id AND colony_id IS NULL AND withdrawn_why = '' ORDER BY seen_on DESC, created_at DESC LIMIT :most;

-- name: pests_ahead
-- The latest check of each pest at each place that asks to be looked at again, the most pressing first.
SELECT p.id, p.pest, p.seen_on, p.score, p.look_from, p.look_by, p.disease_by, p.done, a.id AS apiary_id, a.name AS apiary,
       k.name AS keeper, p.colony_id, coalesce(c.label, '') AS label
FROM pest_check p
JOIN apiary a ON a.id = p.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN colony c ON c.id = p.colony_id
WHERE p.look_by IS NOT NULL AND p.withdrawn_why = '' AND (p.colony_id IS NULL OR c.is_living)
AND NOT EXISTS (SELECT FROM pest_check o WHERE o.pest = p.pest AND o.apiary_id = p.apiary_id AND o.withdrawn_why = ''
                AND o.colony_id IS NOT DISTINCT FROM p.colony_id
                AND (o.seen_on, o.created_at) > (p.seen_on, p.created_at))
ORDER BY p.look_by, p.score DESC, a.name, length(c.label), c.label LIMIT :most;

-- name: add_trap
INSERT INTO pest_trap (id, association_id, colony_id, kind, place, number, placed_on, by_person)
VALUES (:id, my_association(), :colony_id, :kind, :place, :number, :placed_on, my_person());

-- name: remove_trap
UPDATE pest_trap SET removed_on = :on WHERE id = :id AND removed_on IS NULL AND placed_on <= :on;

-- name: traps_of_colony
SELECT id, colony_id, kind, place, number, placed_on, removed_on, version FROM pest_trap
WHERE colony_id = :colony_id ORDER BY removed_on IS NOT NULL, placed_on DESC LIMIT 40;

-- name: trap_by_id
SELECT id, colony_id, kind, place, number, placed_on, removed_on, version FROM pest_trap WHERE id = :id;

-- name: add_trap_reading
INSERT INTO trap_reading (id, association_id, colony_id, trap_id, emptied_on, caught, days, by_person)
VALUES (:id, my_association(), :colony_id, :trap_id, :emptied_on, :caught, :days, my_person());

-- name: trap_readings
SELECT trap_id, emptied_on, caught, days, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM trap_reading WHERE trap_id = ANY(:traps) ORDER BY emptied_on;

-- name: add_entrance
INSERT INTO entrance_state (id, association_id, colony_id, since, width_mm, device, mesh_shut, why, by_person)
VALUES (:id, my_association(), :colony_id, :since, :width_mm, :device, :mesh_shut, :why, my_person());

-- name: entrances_of_colony
SELECT since, width_mm, device, mesh_shut, why, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM entrance_state WHERE colony_id = :colony_id ORDER BY since DESC, created_at DESC LIMIT 40;

-- name: frames_of_bees_seen
SELECT frames_of_bees FROM visit WHERE colony_id = :colony_id AND state = 'closed' AND frames_of_bees IS NOT NULL
AND visited_on <= :on AND visited_on > :on::date - 60 ORDER BY visited_on DESC, created_at DESC LIMIT 1;
