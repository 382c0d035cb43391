-- name: add_deadout
INSERT INTO deadout (id, association_id, colony_id, found_on, examined_on, opened_at, by_person)
VALUES (:id, my_association(), :colony_id, :found_on, :examined_on, :opened_at, my_person());

-- name: deadout_by_id
SELECT id, colony_id, state, found_on, examined_on, opened_at, closed_at, kept, cause, chain, was_avoidable, is_complete,
       is_suspect, is_past, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM deadout WHERE id = :id;

-- name: lock_deadout
SELECT id, colony_id, state, found_on, examined_on, opened_at, closed_at, kept, cause, chain, was_avoidable, is_complete,
       is_suspect, is_past, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM deadout WHERE id = :id FOR UPDATE;

-- name: deadout_of_colony
SELECT id FROM deadout WHERE colony_id = :colony_id AND state <> 'dropped' AND NOT is_past;

-- name: deadout_steps
SELECT step, record, version, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, saved_at
FROM deadout_step WHERE deadout_id = :deadout_id;

-- name: save_deadout_step
-- A new step starts at version 0; one that somebody else has saved meanwhile is not replaced.
INSERT INTO deadout_step AS s (deadout_id, step, association_id, colony_id, record, by_person)
SELECT :deadout_id, :step, my_association(), :colony_id, :record, my_person()
WHERE :version = 0 OR EXISTS (SELECT FROM deadout_step o WHERE o.deadout_id = :deadout_id AND o.step = :step)
ON CONFLICT (deadout_id, step) DO UPDATE SET record = excluded.record, by_person = my_person() WHERE s.version = :version;

-- name: close_deadout
UPDATE deadout SET state = 'closed', closed_at = coalesce(closed_at, :closed_at), kept = :kept, cause = :cause,
       chain = :chain, was_avoidable = :was_avoidable, is_complete = :is_complete, is_suspect = :is_suspect
WHERE id = :id;

-- name: drop_deadout
UPDATE deadout SET state = 'dropped' WHERE id = :id AND state = 'draft';

-- name: list_deadouts
-- Colonies that died or disappeared since a day, with what was found of each; those not examined, or not cleared, first.
SELECT c.id AS colony_id, c.label, c.state AS colony_state, c.state_since, a.id AS apiary_id, a.name AS apiary, k.name AS keeper,
       d.id AS deadout_id, d.state, d.cause, d.chain, d.is_suspect, d.is_complete,
       EXISTS (SELECT FROM foulbrood_exclusion x WHERE x.colony_id = c.id AND x.withdrawn_on IS NULL) AS is_cleared,
       (SELECT count(*) FROM item_fate f WHERE f.colony_id = c.id AND f.fate <> 'hold' AND f.done_on IS NULL) AS to_do
FROM colony c
JOIN colony_state s ON s.name = c.state AND s.is_lost
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN deadout d ON d.colony_id = c.id AND d.state <> 'dropped' AND NOT d.is_past
WHERE c.state_since >= :since AND (:apiary_id::uuid IS NULL OR c.apiary_id = :apiary_id)
ORDER BY (d.id IS NOT NULL), c.state_since DESC, a.name, length(c.label), c.label LIMIT :most;

-- name: deadout_record
-- What the record of a colony holds of the year before a day. `bees_from`: the day on which the last winter bees were begun
-- there (none: the place has none, or it died too long after them); autumn is the 120 days from then. Two visits at the most tell of trouble with the queen.
WITH own AS (
    SELECT v.* FROM visit v
    WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on <= :on AND v.visited_on > :on::date - 400
), last_two AS (
    SELECT id, visited_on FROM own WHERE visited_on > :on::date - 150 ORDER BY visited_on DESC, created_at DESC LIMIT 2
)
SELECT m.taken_on AS counted_on, m.median AS rate, m.scale, st.act_at, coalesce(st.level, 'unknown') AS level,
       f.stores_kg, f.visited_on AS stores_on,
       (SELECT max(o.frames_of_bees) FROM own o
        WHERE :bees_from::date IS NOT NULL AND o.visited_on BETWEEN :bees_from::date - 90 AND :bees_from::date) AS frames_summer,
       b.frames_of_bees AS frames_autumn, b.visited_on AS frames_on,
       (SELECT q.year FROM queen q WHERE q.colony_id = :colony_id AND q.since <= :on ORDER BY q.since DESC LIMIT 1) AS queen_year,
       coalesce((SELECT array_agg(DISTINCT s ->> 'sign') FROM last_two t JOIN visit_frame vf ON vf.visit_id = t.id
                 CROSS JOIN LATERAL jsonb_array_elements(coalesce(vf.record -> 'signs', '[]')) AS s
                 WHERE s ->> 'sign' = ANY (:queen_signs::text[])), '{}') AS queen_signs,
       (SELECT max(o.visited_on) FROM own o WHERE o.eggs_seen IS NOT NULL) AS eggs_looked_on,
       (SELECT max(o.visited_on) FROM own o) AS last_visit_on,
       (SELECT max(o.visited_on) FROM own o WHERE o.visited_on > :on::date - 30
        AND o.after -> 'examination' -> 'lately' ? 'recent_spray') AS spray_on,
       EXISTS (SELECT FROM disease_case e WHERE e.disease IN ('afb', 'efb') AND e.found_on > :on::date - 730
               AND e.found_on <= :on::date + 60 AND e.colony_id <> c.id
               AND EXISTS (SELECT FROM case_step p WHERE p.case_id = e.id AND p.act = 'accept_confirmed')
               AND (e.apiary_id = c.apiary_id OR EXISTS (
                    SELECT FROM trace_list t WHERE t.case_id = e.id AND jsonb_path_exists(
                        t.content, '$.sources[*].colony_id ? (@ == $id)', jsonb_build_object('id', c.id))
                    OR t.case_id = e.id AND jsonb_path_exists(
                        t.content, '$.spread[*].colony_id ? (@ == $id)', jsonb_build_object('id', c.id))))) AS foul_contact,
       n.neighbours, n.lost AS neighbours_lost
FROM colony c
LEFT JOIN LATERAL (SELECT m.taken_on, m.median, m.scale FROM count_record m
                   WHERE m.colony_id = c.id AND m.taken_on <= :on AND m.taken_on > :on::date - 400 AND m.median IS NOT NULL
                   AND m.scale <> 'percent_of_cells' ORDER BY m.taken_on DESC, m.created_at DESC LIMIT 1) m ON true
LEFT JOIN LATERAL (SELECT st.level, st.act_at FROM colony_status st WHERE st.colony_id = c.id AND st.since <= m.taken_on
                   ORDER BY st.since DESC LIMIT 1) st ON true
LEFT JOIN LATERAL (SELECT o.stores_kg, o.visited_on FROM own o WHERE o.stores_kg IS NOT NULL
                   AND :bees_from::date IS NOT NULL AND o.visited_on BETWEEN :bees_from::date AND :bees_from::date + 120
                   ORDER BY o.visited_on DESC LIMIT 1) f ON true
LEFT JOIN LATERAL (SELECT o.frames_of_bees, o.visited_on FROM own o WHERE o.frames_of_bees IS NOT NULL
                   AND :bees_from::date IS NOT NULL AND o.visited_on BETWEEN :bees_from::date AND :bees_from::date + 120
                   ORDER BY o.visited_on DESC LIMIT 1) b ON true
CROSS JOIN LATERAL (
    SELECT count(*) AS neighbours, count(*) FILTER (WHERE s.is_lost) AS lost
    FROM colony o JOIN colony_state s ON s.name = o.state
    WHERE o.apiary_id = c.apiary_id AND o.id <> c.id
    AND (o.is_living OR s.is_lost AND o.state_since > :on::date - 150)) n
WHERE c.id = :colony_id;

-- name: add_deadout_photo
INSERT INTO deadout_photo (id, association_id, colony_id, deadout_id, step, caption, width, height, picture, thumbnail, by_person)
VALUES (:id, my_association(), :colony_id, :deadout_id, :step, :caption, :width, :height, :picture, :thumbnail, my_person());

-- name: photos_of_deadout
SELECT id, step, caption, width, height, created_at, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM deadout_photo WHERE deadout_id = :deadout_id ORDER BY created_at, id;

-- name: deadout_photo_small
SELECT thumbnail FROM deadout_photo WHERE id = :id;

-- name: deadout_photo_whole
SELECT picture FROM deadout_photo WHERE id = :id;

-- name: add_exclusion
INSERT INTO foulbrood_exclusion (id, association_id, colony_id, deadout_id, found_by, excluded_on, reference, why, by_person)
VALUES (:id, my_association(), :colony_id, :deadout_id, :found_by, :excluded_on, :reference, :why, my_person());

-- name: withdraw_exclusion
UPDATE foulbrood_exclusion SET withdrawn_on = greatest(:on, excluded_on), withdrawn_why = :why
WHERE colony_id = :colony_id AND withdrawn_on IS NULL;

-- name: exclusion_of_colony
SELECT id, found_by, excluded_on, reference, why, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM foulbrood_exclusion WHERE colony_id = :colony_id AND withdrawn_on IS NULL;

-- name: fates_of_colony
SELECT id, box_id, frame_id, fate, decided_on, done_on, reason,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM item_fate WHERE colony_id = :colony_id;

-- name: decide_fates
-- One fate for each item; what is done already stays as it is.
INSERT INTO item_fate AS f (id, association_id, colony_id, box_id, frame_id, fate, decided_on, reason, by_person)
SELECT gen_random_uuid(), my_association(), :colony_id, i.box_id, i.frame_id, :fate, :on, :reason, my_person()
FROM unnest(:box_ids::uuid[], :frame_ids::uuid[]) AS i (box_id, frame_id)
ON CONFLICT (colony_id, box_id, frame_id) DO UPDATE SET fate = excluded.fate, decided_on = excluded.decided_on,
    reason = excluded.reason, by_person = my_person()
WHERE f.done_on IS NULL AND (f.fate, f.reason) IS DISTINCT FROM (excluded.fate, excluded.reason);

-- name: fates_done
UPDATE item_fate SET done_on = greatest(:on, decided_on) WHERE id = ANY(:ids) AND done_on IS NULL;

-- name: frames_by_id
SELECT id, apiary_id, kind, frame_format, comb_year, box_id, slot, away, version FROM frame WHERE id = ANY(:ids) ORDER BY id;

-- name: wintered
-- Colonies that lived on the day on which a winter begins, and what became of them by its end; those that were merged are
-- counted apart. `treated_on`: when the first course of that late summer ended.
SELECT c.id AS colony_id, a.name AS apiary, s.is_lost AND c.state_since <= :until AS is_lost, d.cause, d.was_avoidable,
       (SELECT v.frames_of_bees FROM visit v WHERE v.colony_id = c.id AND v.state = 'closed' AND v.frames_of_bees IS NOT NULL
        AND v.visited_on BETWEEN :size_from AND :size_until ORDER BY v.visited_on DESC, v.created_at DESC LIMIT 1) AS frames,
       (SELECT min(coalesce(t.ended_on, t.placed_on)) FROM course t WHERE t.colony_id = c.id AND t.placed_on >= :treated_from
        AND t.placed_on < :since) AS treated_on,
       NOT c.is_living AND NOT s.is_lost AND c.state_since BETWEEN :since AND :until AS is_merged
FROM colony c
JOIN colony_state s ON s.name = c.state
JOIN apiary a ON a.id = c.apiary_id
LEFT JOIN deadout d ON d.colony_id = c.id AND d.state = 'closed' AND NOT d.is_past
WHERE (c.is_living OR c.state_since > :since)
AND (SELECT min(e.happened_on) FROM colony_event e WHERE e.colony_id = c.id) <= :since
AND NOT EXISTS (SELECT FROM colony_event e WHERE e.colony_id = c.id AND e.kind IN ('started', 'split_from') AND e.happened_on > :since);
