-- name: open_visit
INSERT INTO visit (id, association_id, colony_id, visited_on, state, opened_at, by_person)
VALUES (:id, my_association(), :colony_id, :visited_on, 'draft', :opened_at, my_person());

-- name: draft_of_colony
SELECT id FROM visit WHERE colony_id = :colony_id AND state = 'draft';

-- name: visit_by_id
SELECT id, colony_id, visited_on, state, opened_at, closed_at, before, before_version, after, after_version, version,
       coalesce(name_of(by_person), '') AS by_name
FROM visit WHERE id = :id;

-- name: lock_visit
SELECT id, colony_id, visited_on, state, opened_at, closed_at, before, before_version, after, after_version, version,
       coalesce(name_of(by_person), '') AS by_name
FROM visit WHERE id = :id FOR UPDATE;

-- name: keep_before
UPDATE visit SET before = :content, before_version = before_version + 1 WHERE id = :id AND before_version = :version;

-- name: keep_after
UPDATE visit SET after = :content, after_version = after_version + 1 WHERE id = :id AND after_version = :version;

-- name: close_visit
UPDATE visit SET state = 'closed', closed_at = coalesce(closed_at, :closed_at), strength = :strength,
       strength_unit = :strength_unit, capped_brood = :capped_brood, eggs_seen = :eggs_seen, queen_seen = :queen_seen,
       supers_on = :supers_on, fed = :fed, note = :note, frames_of_bees = :frames_of_bees,
       frames_of_brood = :frames_of_brood, capped_cells = :capped_cells, stores_kg = :stores_kg, temper = :temper,
       pattern_empty_pct = :pattern_empty_pct, suspicious = :suspicious, next_visit = :next_visit
WHERE id = :id;

-- name: drop_visit
UPDATE visit SET state = 'dropped', closed_at = :closed_at WHERE id = :id AND state = 'draft';

-- name: frames_of_visits
SELECT visit_id, box_id, slot, frame_id, record, version, coalesce(name_of(by_person), '') AS by_name, kept_at
FROM visit_frame WHERE visit_id = ANY(:visit_ids) ORDER BY visit_id, box_id, slot;

-- name: add_visit_frame
INSERT INTO visit_frame (visit_id, box_id, slot, association_id, colony_id, frame_id, record, by_person)
VALUES (:visit_id, :box_id, :slot, my_association(), :colony_id, :frame_id, :record, my_person())
ON CONFLICT DO NOTHING;

-- name: amend_visit_frame
UPDATE visit_frame SET record = :record, frame_id = :frame_id, by_person = my_person()
WHERE visit_id = :visit_id AND box_id = :box_id AND slot = :slot AND version = :version;

-- name: visits_to_compare
-- Closed visits of a colony before a day or opened earlier that day, newest first, and how many frames each looked at.
SELECT v.id, v.visited_on, (SELECT count(*) FROM visit_frame f WHERE f.visit_id = v.id) AS frames, v.frames_of_bees,
       v.frames_of_brood, v.stores_kg, v.capped_cells, v.temper, v.pattern_empty_pct, v.strength, v.strength_unit
FROM visit v WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on <= :on AND v.id <> :id
ORDER BY v.visited_on DESC, v.made_at DESC, v.id LIMIT 40;

-- name: apiary_at_visits
-- The latest closed visit of each other living colony of the apiary in the weeks before a day.
SELECT DISTINCT ON (v.colony_id) v.colony_id, v.visited_on, v.frames_of_bees, v.frames_of_brood, v.capped_cells, v.stores_kg
FROM visit v JOIN colony c ON c.id = v.colony_id
WHERE c.apiary_id = :apiary_id AND c.id <> :colony_id AND c.state IN ('alive', 'queenless') AND v.state = 'closed'
  AND v.visited_on BETWEEN :since AND :on
ORDER BY v.colony_id, v.visited_on DESC, v.made_at DESC;

-- name: boxes_of_hive
SELECT id, position, purpose, frame_format, frames, since FROM hive_box
WHERE hive_id = :hive_id AND until IS NULL ORDER BY position;

-- name: hive_of_box
SELECT hive_id FROM hive_box WHERE id = :box_id AND until IS NULL;

-- name: last_colony_of_frame
SELECT from_colony FROM frame_move WHERE frame_id = :frame_id AND from_colony IS NOT NULL
ORDER BY moved_on DESC, made_at DESC LIMIT 1;

-- name: hive_by_id
SELECT id, apiary_id, hive_type, floor, numbered_from, divided_after, version FROM hive WHERE id = :id;

-- name: colonies_of_hive
-- The living; where none lives, those that lived there last.
SELECT c.id, c.label, c.hive_side FROM colony c JOIN colony_state s ON s.name = c.state
WHERE c.hive_id = :hive_id
  AND (s.lives OR NOT EXISTS (SELECT FROM colony o JOIN colony_state l ON l.name = o.state WHERE o.hive_id = :hive_id AND l.lives))
ORDER BY s.lives DESC, CASE WHEN s.lives THEN NULL ELSE c.state_since END DESC, c.label;

-- name: lay_frames
-- A comb for each slot of each standing box that was never told to have one.
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
       m.to_box, m.to_slot, m.to_away, m.rule, m.override_why, m.note, coalesce(name_of(m.by_person), '') AS by_name,
       f.label AS from_label, t.label AS to_label
FROM frame_move m LEFT JOIN colony f ON f.id = m.from_colony LEFT JOIN colony t ON t.id = m.to_colony
WHERE m.from_colony = :colony_id OR m.to_colony = :colony_id ORDER BY m.moved_on DESC, m.made_at DESC LIMIT 200;

-- name: held_back
-- Why combs may not leave these colonies: an open hold, a colony that died, unexplained signs at its latest looks.
SELECT c.id AS colony_id, c.label, c.state, h.why AS hold,
       (SELECT array_agg(DISTINCT s) FROM visit v CROSS JOIN LATERAL unnest(v.suspicious) AS s
        WHERE v.colony_id = c.id AND v.state = 'closed' AND v.visited_on > :on::date - 60) AS suspicious
FROM colony c LEFT JOIN colony_hold h ON h.colony_id = c.id AND h.until IS NULL
WHERE c.id = ANY(:ids);

-- name: add_hold
INSERT INTO colony_hold (id, association_id, colony_id, since, why, by_person)
VALUES (:id, my_association(), :colony_id, :since, :why, my_person());

-- name: lift_hold
UPDATE colony_hold SET until = :until, lifted_why = :why WHERE colony_id = :colony_id AND until IS NULL;

-- name: round_of_apiary
-- The living colonies of an apiary in the order of a round: suspects last, so that nothing is carried on from them.
SELECT c.id, c.label, d.id AS draft, l.visited_on AS last_visit, l.next_visit, h.why AS hold, coalesce(s.signs, '{}') AS suspicious
FROM colony c
LEFT JOIN visit d ON d.colony_id = c.id AND d.state = 'draft'
LEFT JOIN colony_hold h ON h.colony_id = c.id AND h.until IS NULL
LEFT JOIN LATERAL (SELECT visited_on, next_visit FROM visit WHERE colony_id = c.id AND state = 'closed'
                   ORDER BY visited_on DESC, made_at DESC LIMIT 1) l ON true
LEFT JOIN LATERAL (SELECT array_agg(DISTINCT one) AS signs FROM visit v CROSS JOIN LATERAL unnest(v.suspicious) AS one
                   WHERE v.colony_id = c.id AND v.state = 'closed' AND v.visited_on > :on::date - 60) s ON true
WHERE c.apiary_id = :apiary_id AND c.state IN ('alive', 'queenless')
ORDER BY (h.id IS NOT NULL OR s.signs IS NOT NULL), length(c.label), c.label, c.id;

-- name: hold_of_colony
SELECT id, colony_id, since, why, coalesce(name_of(by_person), '') AS by_name FROM colony_hold
WHERE colony_id = :colony_id AND until IS NULL;

-- name: add_photo
INSERT INTO photo (id, association_id, colony_id, visit_id, box_id, slot, sign, caption, width, height, picture, thumbnail,
                   by_person)
VALUES (:id, my_association(), :colony_id, :visit_id, :box_id, :slot, :sign, :caption, :width, :height, :picture,
        :thumbnail, my_person());

-- name: photos_of_visit
SELECT id, visit_id, box_id, slot, sign, caption, width, height, made_at, coalesce(name_of(by_person), '') AS by_name
FROM photo WHERE visit_id = :visit_id ORDER BY made_at, id;

-- name: picture
SELECT picture FROM photo WHERE id = :id;

-- name: thumbnail
SELECT thumbnail FROM photo WHERE id = :id;
