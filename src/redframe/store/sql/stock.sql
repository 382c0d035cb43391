-- name: lots
-- Lots with what was placed of them (every placing on record, whoever's hive it was in) and what else was done with them.
SELECT l.id, l.keeper_id, coalesce(k.name, '') AS keeper, l.product, l.option_ids, l.unit, l.quantity, l.strength, l.lot,
       l.expires_on, l.bought_on, l.supplier, l.receipt, l.note, l.made_from, l.created_at, l.version,
       coalesce((SELECT name FROM member WHERE member.id = l.by_person), '') AS by_name,
       placed_of_lot(l.id) AS placings,
       coalesce((SELECT jsonb_agg(jsonb_build_object('id', c.id, 'kind', c.kind, 'quantity', c.quantity, 'done_on', c.done_on,
                     'how', c.how, 'by_name', coalesce((SELECT name FROM member WHERE member.id = c.by_person), ''))
                     ORDER BY c.done_on, c.created_at)
                 FROM lot_change c WHERE c.lot_id = l.id), '[]') AS changes
FROM product_lot l LEFT JOIN keeper k ON k.id = l.keeper_id
WHERE :lot_id::uuid IS NULL OR l.id = :lot_id
ORDER BY l.expires_on NULLS LAST, l.product, l.lot, l.id LIMIT :most;

-- name: add_lot
INSERT INTO product_lot (id, association_id, keeper_id, product, option_ids, unit, quantity, strength, lot, expires_on, bought_on,
                         supplier, receipt, note, made_from, by_person)
VALUES (:id, my_association(), :keeper_id, :product, :option_ids, :unit, :quantity, :strength, :lot, :expires_on, :bought_on,
        :supplier, :receipt, :note, :made_from, my_person());

-- name: amend_lot
UPDATE product_lot SET product = :product, option_ids = :option_ids, unit = :unit, quantity = :quantity, strength = :strength,
       lot = :lot, expires_on = :expires_on, bought_on = :bought_on, supplier = :supplier, receipt = :receipt, note = :note
WHERE id = :id AND version = :version;

-- name: lock_lot
SELECT id FROM product_lot WHERE id = :id FOR UPDATE;

-- name: add_lot_change
INSERT INTO lot_change (id, association_id, lot_id, kind, quantity, done_on, how, by_person)
VALUES (:id, my_association(), :lot_id, :kind, :quantity, :done_on, :how, my_person());

-- name: courses_of_lot
-- Courses in which anything of a lot was placed, or of what was mixed from it.
WITH RECURSIVE made AS (
    SELECT id FROM product_lot WHERE id = :lot_id
    UNION SELECT l.id FROM product_lot l JOIN made m ON l.made_from = m.id
)
SELECT DISTINCT a.course_id AS id FROM course_act a JOIN made m ON m.id = a.lot_id ORDER BY 1;

-- name: placed_of_lot
-- Where a lot and what was mixed from it went, newest first.
WITH RECURSIVE made AS (
    SELECT id FROM product_lot WHERE id = :lot_id
    UNION SELECT l.id FROM product_lot l JOIN made m ON l.made_from = m.id
)
SELECT a.lot_id, a.done_on, a.quantity, a.quantity_unit, t.id AS course_id, t.option_id, t.colony_id, c.label, c.apiary_id,
       p.name AS apiary, k.name AS keeper, t.honey_clear_on,
       coalesce((SELECT array_agg(DISTINCT h.batch ORDER BY h.batch) FROM harvest h
                 WHERE h.colony_id = t.colony_id AND h.harvested_on >= a.done_on AND h.honey_for = 'people'
                 AND h.withdrawn_why = ''), '{}') AS honey_batches
FROM course_act a JOIN made m ON m.id = a.lot_id
JOIN course t ON t.id = a.course_id JOIN colony c ON c.id = t.colony_id JOIN apiary p ON p.id = c.apiary_id
JOIN keeper k ON k.id = p.keeper_id
ORDER BY a.done_on DESC, p.name, length(c.label), c.label LIMIT 2000;

-- name: doses_to_come
-- Doses of open courses that are still to be given, with the day on which the last of what they leave is due out.
SELECT t.option_id, t.policy_version, s.ideal AS on, coalesce(t.dose_quantity, 0) AS quantity, c.apiary_id, p.name AS apiary, p.keeper_id,
       (SELECT max(e.ideal) FROM course_step e WHERE e.course_id = t.id AND e.kind IN ('remove', 'end')) AS good_until
FROM course t JOIN course_step s ON s.course_id = t.id AND s.kind = 'place' AND NOT s.done
JOIN colony c ON c.id = t.colony_id JOIN apiary p ON p.id = c.apiary_id
WHERE t.association_id = my_association() AND t.is_open AND t.chemical AND c.is_living ORDER BY s.ideal, t.id;
