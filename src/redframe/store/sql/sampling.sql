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

-- name: replace_readings
-- `readings` is a JSON list.
INSERT INTO count_reading (count_id, association_id, colony_id, model, scale, mites, bees_mean, bees_cv, recovery, board_days, board_cv, as_counted, median, low, high, upper80)
SELECT r.count_id, my_association(), r.colony_id, :model, r.scale, r.mites, r.bees_mean, r.bees_cv, r.recovery, r.board_days, r.board_cv, r.as_counted, r.median, r.low, r.high,
       r.upper80
FROM jsonb_to_recordset(:readings) AS r (count_id uuid, colony_id uuid, scale text, mites integer, bees_mean double precision, bees_cv double precision, recovery text, board_days double precision,
    board_cv double precision, as_counted double precision, median double precision, low double precision, high double
    precision, upper80 double precision)
ON CONFLICT (count_id) DO UPDATE SET model = excluded.model, scale = excluded.scale,
    mites = excluded.mites, bees_mean = excluded.bees_mean, bees_cv = excluded.bees_cv, recovery = excluded.recovery,
    board_days = excluded.board_days, board_cv = excluded.board_cv, as_counted = excluded.as_counted, median =
    excluded.median, low = excluded.low, high = excluded.high, upper80 = excluded.upper80;

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
