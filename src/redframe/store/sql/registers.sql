-- name: register_of_course
SELECT id AS line_id, line, is_void FROM register_of_course(:course_id);

-- name: register_enter
SELECT register_enter(:kind, :line_id, :course_id, :keeper_id, :apiary_id, :placed_on, :last_on, :today, :moment, :line, :changes,
                      :missing, :why);

-- name: register_place
-- Whose a colony is and where it is, as the register writes it down.
SELECT c.label AS colony, p.id AS apiary_id, p.name AS apiary, p.latitude, p.longitude, k.id AS keeper_id, k.name AS keeper,
       k.registration
FROM colony c JOIN apiary p ON p.id = c.apiary_id JOIN keeper k ON k.id = p.keeper_id WHERE c.id = :colony_id;

-- name: register_lines
-- Lines that fit, the latest number first; behind a number where one is given.
SELECT l.id, l.number, l.keeper_number, l.keeper_id, l.apiary_id, l.colony_id, l.course_id, l.option_id, l.placed_on, l.last_on,
       l.entered_on, l.is_void, l.missing, l.line
FROM register_line l
WHERE (:keeper_id::uuid IS NULL OR l.keeper_id = :keeper_id) AND (:apiary_id::uuid IS NULL OR l.apiary_id = :apiary_id)
AND (:colony_id::uuid IS NULL OR l.colony_id = :colony_id)
AND (:option_id::text IS NULL OR l.option_id = :option_id) AND (:since::date IS NULL OR l.placed_on >= :since)
AND (:until::date IS NULL OR l.placed_on <= :until) AND (:lot = '' OR l.line ->> 'lot' = :lot)
AND (NOT :incomplete OR (cardinality(l.missing) > 0 AND NOT l.is_void)) AND (:before::bigint IS NULL OR l.number < :before)
ORDER BY l.number DESC LIMIT :most;

-- name: register_count
SELECT count(*) AS lines, count(*) FILTER (WHERE cardinality(l.missing) > 0 AND NOT l.is_void) AS incomplete,
       count(*) FILTER (WHERE l.is_void) AS void
FROM register_line l
WHERE (:keeper_id::uuid IS NULL OR l.keeper_id = :keeper_id) AND (:apiary_id::uuid IS NULL OR l.apiary_id = :apiary_id)
AND (:colony_id::uuid IS NULL OR l.colony_id = :colony_id)
AND (:option_id::text IS NULL OR l.option_id = :option_id) AND (:since::date IS NULL OR l.placed_on >= :since)
AND (:until::date IS NULL OR l.placed_on <= :until) AND (:lot = '' OR l.line ->> 'lot' = :lot)
AND (NOT :incomplete OR (cardinality(l.missing) > 0 AND NOT l.is_void));

-- name: register_entries
-- All entries of lines, latest first.
SELECT e.number, e.keeper_number, e.line_id, e.kind, e.line, e.changes, e.why, e.by_name, e.entered_at FROM register_entry e
WHERE e.line_id = ANY(:line_ids) ORDER BY e.line_id, e.number DESC;
