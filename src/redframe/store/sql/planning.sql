-- name: steps_due
-- Steps of open courses that may be done soon or should have been, one row for colonies that share apiary, plan and step.
-- A step waits for the one before it.
SELECT t.plan_id, a.id AS apiary_id, a.name AS apiary, k.name AS keeper, t.option_id, s.name AS step, s.kind,
       count(*) AS colonies, array_agg(c.label ORDER BY length(c.label), c.label) AS labels,
       (array_agg(t.id ORDER BY length(c.label), c.label))[1] AS course_id,
       min(s.earliest) AS earliest, min(s.ideal) AS ideal, min(s.latest) AS latest, bool_or(s.hard_stop) AS hard_stop,
       min(s.first_ideal) AS first_ideal, a.latitude, a.longitude,
       sum(t.dose_quantity) AS dose_quantity, min(t.dose_unit) AS dose_unit
FROM course_step s
JOIN course t ON t.id = s.course_id AND t.is_open
JOIN colony c ON c.id = t.colony_id
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN course_step p ON p.course_id = s.course_id AND p.name = s.after
WHERE NOT s.done AND s.kind NOT IN ('baseline_count') AND coalesce(p.done, true) AND s.earliest <= :until
GROUP BY t.plan_id, a.id, k.id, t.option_id, s.name, s.kind
ORDER BY min(s.latest), a.name, s.name LIMIT :most;

-- name: over_without_course
-- Colonies at act or urgent that no open course answers, by apiary.
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       count(*) FILTER (WHERE s.level = 'urgent') AS urgent, max(s.act_at) AS act_at, min(s.scheme) AS scheme,
       -- Rates and daily falls are never compared: the highest is that of the rates where there are any.
       coalesce(max(o.median) FILTER (WHERE o.scale = 'mites_per_100'), max(o.median)) AS highest,
       CASE WHEN bool_or(o.scale = 'mites_per_100') THEN 'mites_per_100' ELSE min(o.scale) END AS scale,
       min(o.counted_on) AS oldest_count_on, min(s.overdue_from) AS overdue_from
FROM colony_status s
JOIN colony c ON c.id = s.colony_id AND c.is_living
JOIN outlook o ON o.colony_id = c.id
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
WHERE s.level IN (SELECT name FROM level WHERE is_over) AND s.since <= :today AND (s.until IS NULL OR s.until > :today)
AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = c.id
                AND t.is_open)
GROUP BY c.apiary_id, a.id, k.id ORDER BY urgent DESC, highest DESC, a.name
LIMIT :most;

-- name: counts_due
-- Living colonies to count: never counted, known no longer, or due soon; not those whose course will be verified anyway.
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       count(*) FILTER (WHERE o.colony_id IS NULL) AS never, count(*) FILTER (WHERE s.level = 'unknown') AS too_old,
       (array_agg(l.name ORDER BY l.attention))[1] AS level,
       min(o.recount_on) AS due_on, min(o.counted_on) AS oldest_count_on
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= :today AND (s.until IS NULL OR s.until > :today)
JOIN level l ON l.name = coalesce(s.level, 'unknown')
WHERE c.is_living
AND (o.colony_id IS NULL OR s.level = 'unknown' OR (o.recount_on <= :until AND s.level IN ('clear', 'watch')))
AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = c.id AND t.is_open AND t.placed_on IS NOT NULL)
GROUP BY c.apiary_id, a.id, k.id
ORDER BY count(*) FILTER (WHERE o.colony_id IS NULL OR s.level = 'unknown') DESC, min(o.recount_on), a.name LIMIT :most;

-- name: boards_due
-- Boards that have been in for a day at least, of living colonies.
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       min(b.placed_at) AS placed_at
FROM insert_board b
JOIN colony c ON c.id = b.colony_id AND c.is_living
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
WHERE b.removed_at IS NULL AND b.placed_at <= :now::timestamptz - interval '20 hours'
GROUP BY c.apiary_id, a.id, k.id ORDER BY min(b.placed_at), a.name LIMIT :most;

-- name: visits_due
-- Living colonies whose last closed visit set a next one by a day; those open already are being visited.
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       min(l.next_visit) AS due_on, count(*) FILTER (WHERE l.next_visit < :today) AS overdue,
       coalesce(mode() WITHIN GROUP (ORDER BY l.why), '') AS why
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
CROSS JOIN LATERAL (SELECT v.next_visit, v.after ->> 'next_why' AS why FROM visit v
                    WHERE v.colony_id = c.id AND v.state = 'closed' ORDER BY v.visited_on DESC, v.created_at DESC LIMIT 1) l
WHERE c.is_living AND l.next_visit <= :until
AND NOT EXISTS (SELECT FROM visit d WHERE d.colony_id = c.id AND d.state = 'draft')
GROUP BY c.apiary_id, a.id, k.id ORDER BY min(l.next_visit), a.name LIMIT :most;

-- name: totals
SELECT (SELECT count(*) FROM colony WHERE is_living) AS colonies, (SELECT count(*) FROM apiary) AS apiaries;

-- name: rates_by_apiary
-- How each living colony of some apiaries stands: its level today and the figure of its latest count.
SELECT c.apiary_id, c.label, coalesce(s.level, 'unknown') AS level, o.median AS rate, o.scale, o.counted_on
FROM colony c
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= :today AND (s.until IS NULL OR s.until > :today)
WHERE c.is_living AND c.apiary_id = ANY (:apiaries)
ORDER BY c.apiary_id, length(c.label), c.label;
