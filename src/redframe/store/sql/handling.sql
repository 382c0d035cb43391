-- name: add_handling
INSERT INTO handling (id, association_id, colony_id, visit_id, condition, option, reason, chosen_on, recheck_from, recheck_to,
                      cells, combs_with_sign, combs, by_person)
VALUES (:id, my_association(), :colony_id, :visit_id, :condition, :option, :reason, :chosen_on, :recheck_from, :recheck_to,
        :cells, :combs_with_sign, :combs, my_person());

-- name: handlings
-- Handlings of a colony, or one of them, newest first.
SELECT h.id, h.colony_id, h.visit_id, h.condition, h.option, h.reason, h.chosen_on, h.recheck_from, h.recheck_to, h.cells,
       h.combs_with_sign, h.combs, h.state, h.ended_on, h.outcome, h.looked_on, h.ended_why, h.version,
       coalesce((SELECT name FROM member WHERE member.id = h.by_person), '') AS by_name
FROM handling h WHERE (h.colony_id = :colony_id OR h.id = :handling_id)
ORDER BY h.chosen_on DESC, h.created_at DESC, h.id LIMIT 60;

-- name: handlings_of_region
-- What the association chose for a condition, with its last outcome; the newest two thousand.
SELECT h.id, h.colony_id, h.visit_id, h.condition, h.option, h.reason, h.chosen_on, h.recheck_from, h.recheck_to, h.cells,
       h.combs_with_sign, h.combs, h.state, h.ended_on, h.outcome, h.looked_on, h.ended_why, h.version, '' AS by_name
FROM handling h WHERE h.state <> 'withdrawn' ORDER BY h.chosen_on DESC, h.id LIMIT 2000;

-- name: end_handling
UPDATE handling SET state = :state, ended_on = :ended_on, outcome = :outcome, looked_on = :looked_on, ended_why = :why
WHERE id = :id AND state = 'open' AND version = :version;

-- name: looks_of_handlings
-- What later visits recorded of the colonies, or of the combs, that these handlings follow: a row a comb, or one without a
-- comb where the visit recorded none; of one day in the order in which they were made.
SELECT handling_id, visit_id, visited_on, frame_id, signs, is_comb, combs_read, brood_combs FROM (
SELECT h.id AS handling_id, v.id AS visit_id, v.visited_on, r.frame_id, coalesce(r.record -> 'signs', '[]') AS signs,
       r.visit_id IS NOT NULL AS is_comb, (v.after -> 'examination' ->> 'combs_read')::int AS combs_read,
       (v.after -> 'examination' ->> 'brood_combs')::int AS brood_combs, v.created_at
FROM handling h JOIN visit v ON v.colony_id = h.colony_id AND v.state = 'closed' AND v.visited_on > h.chosen_on
    AND (h.ended_on IS NULL OR v.visited_on <= h.ended_on)
LEFT JOIN visit_frame r ON r.visit_id = v.id
WHERE h.id = ANY(:ids) AND cardinality(h.combs) = 0
UNION ALL
SELECT h.id, v.id, v.visited_on, r.frame_id, coalesce(r.record -> 'signs', '[]'), true, NULL, NULL, v.created_at
FROM handling h CROSS JOIN unnest(h.combs) AS followed (frame_id) JOIN visit_frame r ON r.frame_id = followed.frame_id
JOIN visit v ON v.id = r.visit_id AND v.state = 'closed' AND v.visited_on > h.chosen_on
    AND (h.ended_on IS NULL OR v.visited_on <= h.ended_on)
WHERE h.id = ANY(:ids)) AS looks
ORDER BY visited_on, created_at, visit_id;

-- name: combs_followed
-- Combs that are followed and where each hangs now, with what the visit of the choice recorded of it.
SELECT h.id AS handling_id, f.id AS frame_id, c.id AS colony_id, c.label, f.slot, f.away, coalesce(r.record -> 'signs', '[]') AS signs
FROM handling h CROSS JOIN unnest(h.combs) AS followed (frame_id) JOIN frame f ON f.id = followed.frame_id
LEFT JOIN hive_box b ON b.id = f.box_id
LEFT JOIN LATERAL (SELECT id, label FROM colony WHERE hive_id = b.hive_id AND is_living ORDER BY label, id LIMIT 1) c ON true
LEFT JOIN visit_frame r ON r.visit_id = h.visit_id AND r.frame_id = f.id
WHERE h.id = ANY(:ids) ORDER BY h.id, f.slot NULLS LAST, f.id;

-- name: about_handling
-- Whether a colony had a sign in an earlier season, half a year or more before a day, and whether another living colony of
-- the apiary was seen strong at its last visit in the two months before that day.
SELECT EXISTS (
    SELECT FROM visit v JOIN visit_frame r ON r.visit_id = v.id CROSS JOIN jsonb_array_elements(r.record -> 'signs') AS s (seen)
    WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on < :on ::date - 180
    AND s.seen ->> 'sign' = ANY(:signs)) AS had_before,
EXISTS (
    SELECT FROM colony c CROSS JOIN LATERAL (
        SELECT frames_of_bees FROM visit v WHERE v.colony_id = c.id AND v.state = 'closed' AND v.frames_of_bees IS NOT NULL
        AND v.visited_on BETWEEN :on ::date - 60 AND :on ::date ORDER BY v.visited_on DESC LIMIT 1) v
    WHERE c.apiary_id = :apiary_id AND c.is_living AND c.id <> :colony_id AND v.frames_of_bees >= :frames) AS strong_neighbour;
