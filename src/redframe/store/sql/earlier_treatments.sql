-- name: add_earlier
INSERT INTO earlier_treatment (id, association_id, colony_id, doses_on, end_known, outcome, given_by, known_from, note,
                               by_person)
SELECT c.id, my_association(), c.colony_id, :doses_on, :end_known, :outcome, :given_by, :known_from, :note, my_person()
FROM course c WHERE c.id = :id;

-- name: amend_earlier
UPDATE earlier_treatment SET doses_on = :doses_on, end_known = :end_known, outcome = :outcome, given_by = :given_by,
       known_from = :known_from, note = :note, withdrawn_why = :withdrawn_why WHERE id = :id AND version = :version;

-- name: amend_earlier_dose
UPDATE course SET dose_quantity = :quantity WHERE id = :id AND is_earlier;

-- name: treatments_known
-- A colony may be older than its record: from when on it is on record is when it came, or was entered, if that is later.
SELECT c.id AS colony_id, c.label, e.happened_on AS came_on, greatest(e.happened_on, e.created_at::date) AS recorded_since,
       e.kind = 'split_from' AS is_first_day,
       CASE WHEN NOT c.is_living THEN c.state_since END AS last_on, k.known_since AS said_since
FROM colony c LEFT JOIN treatments_known k ON k.colony_id = c.id
CROSS JOIN LATERAL (SELECT e.happened_on, e.kind, e.created_at FROM colony_event e WHERE e.colony_id = c.id
                    AND e.kind IN ('started', 'split_from') ORDER BY e.happened_on, e.kind LIMIT 1) e
WHERE c.id = ANY(:colony_ids) ORDER BY length(c.label), c.label, c.id;

-- name: say_treatments_known
INSERT INTO treatments_known AS k (id, association_id, colony_id, known_since, known_from, by_person)
VALUES (:id, my_association(), :colony_id, :known_since, :known_from, my_person())
ON CONFLICT (id) DO UPDATE SET known_since = excluded.known_since, known_from = excluded.known_from, by_person = my_person()
WHERE k.known_since <> excluded.known_since;
