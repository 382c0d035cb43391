-- name: brood_stops
-- What stopped the laying of colonies since a day: what somebody said, courses that cage the queen (`cages`) or take the
-- brood out (`clears`), splits that went without a mated queen, colonies found queenless.
SELECT colony_id, kind, happened_on AS on, release_on, 'said' AS source, id AS event_id FROM brood_event
WHERE colony_id = ANY(:colony_ids) AND withdrawn_why = '' AND happened_on >= :since
UNION ALL
SELECT t.colony_id, CASE WHEN t.option_id = ANY(:cages) THEN 'queen_caged' ELSE 'brood_out' END, t.placed_on,
       CASE WHEN t.option_id = ANY(:cages)
            THEN coalesce(t.ended_on, (SELECT s.ideal FROM course_step s WHERE s.course_id = t.id AND s.kind = 'remove')) END,
       'course', NULL
FROM course t WHERE t.colony_id = ANY(:colony_ids) AND t.option_id = ANY(:cages || :clears) AND t.placed_on >= :since
AND t.state NOT IN ('withdrawn')
UNION ALL
SELECT e.colony_id, 'queen_removed', e.happened_on, NULL, 'split', NULL FROM colony_event e
WHERE e.colony_id = ANY(:colony_ids) AND e.kind = 'split_from' AND e.happened_on >= :since
AND NOT EXISTS (SELECT FROM queen q WHERE q.colony_id = e.colony_id AND q.status IN ('mated', 'caged')
                AND q.since <= e.happened_on + 3)
UNION ALL
SELECT e.colony_id, 'queen_removed', e.happened_on, NULL, 'queenless', NULL FROM colony_event e
WHERE e.colony_id = ANY(:colony_ids) AND e.kind = 'state' AND e.current = 'queenless' AND e.happened_on >= :since;

-- name: laying_days
SELECT colony_id, laying_since AS on FROM queen WHERE colony_id = ANY(:colony_ids) AND laying_since >= :since;

-- name: cells_seen
-- Queen cells that closed visits saw on the combs of colonies since a day.
SELECT DISTINCT f.colony_id, v.visited_on AS on, cell ->> 'content' AS age
FROM visit v JOIN visit_frame f ON f.visit_id = v.id CROSS JOIN LATERAL jsonb_array_elements(f.record -> 'cells') AS cell
WHERE v.colony_id = ANY(:colony_ids) AND v.visited_on >= :since AND v.state = 'closed'
AND cell ->> 'content' IN ('egg', 'larva', 'capped', 'emerged');

-- name: queens_came
-- Queens since a day of whom nobody has said since when they lay.
SELECT colony_id, since AS on, status <> 'virgin' AS is_mated FROM queen
WHERE colony_id = ANY(:colony_ids) AND since >= :since AND laying_since IS NULL AND status IN ('virgin', 'mated', 'caged');

-- name: brood_event
SELECT id, colony_id, kind, happened_on, release_on, withdrawn_why, version FROM brood_event WHERE id = :id;

-- name: add_brood_event
INSERT INTO brood_event (id, association_id, colony_id, kind, happened_on, release_on, by_person)
VALUES (:id, my_association(), :colony_id, :kind, :happened_on, :release_on, my_person());

-- name: withdraw_brood_event
UPDATE brood_event SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';
