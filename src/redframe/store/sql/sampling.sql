-- name: add_count
INSERT INTO mite_count (id, association_id, colony_id, method, taken_at, taken_on, by_person,
                        shakes, bees_known_by, bees, volume_ml, mass_g, place_of_bees, brood_state, queen_safe, rested_s,
                        wet, placed_at, squares, squares_in_all, cleaned, greased, ants, cells_opened, cells_infested, mites_in_cells,
                        patches, mites_seen, targeted, note)
VALUES (:id, my_association(), :colony_id, :method, :taken_at, :taken_on, my_person(),
        :shakes, :bees_known_by, :bees, :volume_ml, :mass_g, :place_of_bees, :brood_state, :queen_safe, :rested_s, :wet,
        :placed_at, :squares, :squares_in_all, :cleaned, :greased, :ants, :cells_opened, :cells_infested,
        :mites_in_cells, :patches, :mites_seen, :targeted, :note);

-- name: amend_count
UPDATE mite_count SET method = :method, taken_at = :taken_at, taken_on = :taken_on,
       shakes = :shakes, bees_known_by = :bees_known_by, bees = :bees, volume_ml = :volume_ml, mass_g = :mass_g,
       place_of_bees = :place_of_bees, brood_state = :brood_state, queen_safe = :queen_safe, rested_s = :rested_s,
       wet = :wet, placed_at = :placed_at, squares = :squares, squares_in_all = :squares_in_all, cleaned = :cleaned,
       greased = :greased, ants = :ants, cells_opened = :cells_opened, cells_infested = :cells_infested,
       mites_in_cells = :mites_in_cells, patches = :patches, mites_seen = :mites_seen, targeted = :targeted, note = :note
WHERE id = :id AND version = :version AND (method = :method OR starts_with(method, 'board') AND starts_with(:method, 'board'));

-- name: counts_of_colonies
-- Counts with what they say, newest first.
SELECT * FROM count_record WHERE colony_id = ANY(:colony_ids) AND taken_on >= :since
ORDER BY taken_at DESC, created_at DESC, id;

-- name: count_by_id
SELECT * FROM count_record WHERE id = :id;

-- name: brief_counts
-- Counts with a reading as a level takes them, in the order in which they were taken; `colony_ids` as they are numbered.
SELECT k.number::integer - 1, m.id::text, m.taken_on, m.method, r.scale, r.mites, r.median, r.upper80, r.bees_mean, r.bees_cv,
       r.recovery, m.place_of_bees, m.rested_s, m.wet, v.count_id IS NOT NULL
FROM unnest(:colony_ids::uuid[]) WITH ORDINALITY AS k (id, number)
JOIN mite_count m ON m.colony_id = k.id JOIN count_reading r ON r.count_id = m.id
LEFT JOIN (SELECT DISTINCT count_id FROM course_act WHERE step = 'verify' AND count_id IS NOT NULL) v ON v.count_id = m.id
WHERE m.taken_on >= :since
ORDER BY k.number, m.taken_at, m.created_at, m.id DESC;

-- name: brief_boards
SELECT m.id::text, m.placed_at, m.taken_at, m.cleaned, m.greased, m.ants, m.method FROM mite_count m
WHERE m.colony_id = ANY(:colony_ids) AND m.taken_on >= :since AND m.placed_at IS NOT NULL;

-- name: measured_jars
-- What a jar's reading is computed from.
SELECT m.id::text, m.method, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g
FROM mite_count m JOIN count_reading r ON r.count_id = m.id
WHERE m.colony_id = ANY(:colony_ids) AND m.taken_on >= :since AND m.shakes IS NOT NULL;

-- name: replace_readings
-- `readings` is a JSON list; the count of each of `count_ids` has the one that stands at its place in `numbers`.
INSERT INTO count_reading (count_id, association_id, colony_id, model, scale, mites, bees_mean, bees_cv, recovery, board_days,
                           board_cv, as_counted, median, low, high, upper80)
SELECT m.id, m.association_id, m.colony_id, :model, r.scale, r.mites, r.bees_mean, r.bees_cv, r.recovery, r.board_days,
       r.board_cv, r.as_counted, r.median, r.low, r.high, r.upper80
FROM unnest(:count_ids::uuid[], :numbers::integer[]) AS c (id, number)
JOIN mite_count m ON m.id = c.id
JOIN jsonb_to_recordset(:readings) AS r (number integer, scale text, mites integer, bees_mean double precision,
    bees_cv double precision, recovery text, board_days double precision, board_cv double precision,
    as_counted double precision, median double precision, low double precision, high double precision,
    upper80 double precision) ON r.number = c.number
ON CONFLICT (count_id) DO UPDATE SET model = excluded.model, scale = excluded.scale,
    mites = excluded.mites, bees_mean = excluded.bees_mean, bees_cv = excluded.bees_cv, recovery = excluded.recovery,
    board_days = excluded.board_days, board_cv = excluded.board_cv, as_counted = excluded.as_counted, median =
    excluded.median, low = excluded.low, high = excluded.high, upper80 = excluded.upper80;

-- name: readings_on_record
SELECT count_id::text, scale, mites, board_days, board_cv, bees_mean, bees_cv, recovery, as_counted, median, low, high, upper80
FROM count_reading WHERE count_id = ANY(:count_ids::uuid[]);

-- name: delete_reading
DELETE FROM count_reading WHERE count_id = :count_id;

-- name: colonies_with_mite_signs
-- Colonies of an apiary in whose brood mites or their dirt were seen within two months.
SELECT DISTINCT f.colony_id FROM visit_frame f JOIN visit v ON v.id = f.visit_id JOIN colony c ON c.id = f.colony_id
CROSS JOIN LATERAL jsonb_array_elements(f.record -> 'signs') AS one
WHERE c.apiary_id = :apiary_id AND v.visited_on > :today::date - 60 AND v.state = 'closed'
AND one ->> 'sign' IN ('mites_in_brood', 'guanine');

-- name: undo_count
SELECT undo_count(:id);
