-- name: hive_of_box
SELECT hive_id FROM hive_box WHERE id = :box_id AND until IS NULL;

-- name: last_colony_of_frame
SELECT from_colony FROM frame_move WHERE frame_id = :frame_id AND from_colony IS NOT NULL
ORDER BY moved_on DESC, created_at DESC LIMIT 1;

-- name: fill_boxes
-- A comb for each slot of each box that was never recorded to have one.
INSERT INTO frame (id, association_id, apiary_id, frame_format, box_id, slot)
SELECT gen_random_uuid(), my_association(), h.apiary_id, b.frame_format, b.id, s.slot
FROM hive h JOIN hive_box b ON b.hive_id = h.id AND b.until IS NULL AND b.frames > 0
CROSS JOIN LATERAL generate_series(1, b.frames) AS s (slot)
WHERE h.id = :hive_id AND NOT EXISTS (SELECT FROM frame f WHERE f.box_id = b.id)
  AND NOT EXISTS (SELECT FROM frame_move m WHERE m.from_box = b.id);

-- name: frames_of_boxes
SELECT id, apiary_id, kind, frame_format, comb_year, box_id, slot, away, version FROM frame
WHERE box_id = ANY(:box_ids) ORDER BY box_id, slot;

-- name: frames_away
SELECT id, apiary_id, kind, frame_format, comb_year, box_id, slot, away, version FROM frame
WHERE apiary_id = :apiary_id AND box_id IS NULL AND away IN ('store', 'freezer') ORDER BY away, frame_format, id LIMIT 200;

-- name: lock_frames
SELECT id, apiary_id, kind, frame_format, comb_year, box_id, slot, away, version FROM frame
WHERE id = ANY(:ids) OR (box_id = :box_id AND slot = :slot) ORDER BY id FOR UPDATE;

-- name: add_frame
INSERT INTO frame (id, association_id, apiary_id, kind, frame_format, comb_year, away)
VALUES (:id, my_association(), :apiary_id, :kind, :frame_format, :comb_year, 'store');

-- name: place_frame
UPDATE frame SET apiary_id = :apiary_id, box_id = :box_id, slot = :slot, away = :away WHERE id = :id;

-- name: add_frame_move
INSERT INTO frame_move (id, association_id, act_id, frame_id, visit_id, moved_on, from_apiary, from_colony, from_box,
                        from_slot, from_away, to_apiary, to_colony, to_box, to_slot, to_away, rule, override_why, note,
                        by_person)
VALUES (:id, my_association(), :act_id, :frame_id, :visit_id, :moved_on, :from_apiary, :from_colony, :from_box,
        :from_slot, :from_away, :to_apiary, :to_colony, :to_box, :to_slot, :to_away, :rule, :override_why, :note,
        my_person());

-- name: moves_of_colony
SELECT m.id, m.act_id, m.frame_id, m.visit_id, m.moved_on, m.from_colony, m.from_box, m.from_slot, m.from_away, m.to_colony,
       m.to_box, m.to_slot, m.to_away, m.rule, m.override_why, m.note,
       coalesce((SELECT name FROM member WHERE member.id = m.by_person), '') AS by_name,
       f.label AS from_label, t.label AS to_label
FROM frame_move m LEFT JOIN colony f ON f.id = m.from_colony LEFT JOIN colony t ON t.id = m.to_colony
WHERE m.from_colony = :colony_id OR m.to_colony = :colony_id ORDER BY m.moved_on DESC, m.created_at DESC LIMIT 200;
