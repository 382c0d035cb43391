-- name: steps_due
-- Steps of open courses that may be done soon or should have been, one row for colonies that share apiary, plan and step.
-- A step waits for the one before it.
SELECT t.plan_id, a.id AS apiary_id, a.name AS apiary, k.name AS keeper, t.option_id, s.name AS step, s.kind,
       count(*) AS colonies, array_agg(c.label ORDER BY length(c.label), c.label) AS labels,
       (array_agg(t.id ORDER BY length(c.label), c.label))[1] AS course_id,
       min(s.earliest) AS earliest, min(s.ideal) AS ideal, min(s.latest) AS latest, bool_or(s.hard_stop) AS hard_stop,
       min(s.first_ideal) AS first_ideal, a.latitude, a.longitude,
       sum(t.dose_quantity) AS dose_quantity, min(t.dose_unit) AS dose_unit,
       (SELECT one FROM policy p CROSS JOIN jsonb_array_elements(p.treatment_rules -> 'product_labels') AS one
        WHERE p.association_id = my_association() AND p.version = min(t.policy_version) AND one ->> 'option' = t.option_id
        LIMIT 1) AS product_label
FROM course_step s
JOIN course t ON t.id = s.course_id AND t.is_open
JOIN colony c ON c.id = t.colony_id
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN course_step p ON p.course_id = s.course_id AND p.name = s.after
WHERE NOT s.done AND s.kind NOT IN ('baseline_count') AND coalesce(p.done, true) AND s.earliest <= :until
AND (:apiaries::uuid[] IS NULL OR c.apiary_id = ANY (:apiaries))
GROUP BY t.plan_id, a.id, k.id, t.option_id, s.name, s.kind
ORDER BY min(s.latest), a.name, s.name LIMIT :most;

-- name: doses_in_hives
-- Doses that are in hives still, of courses that began since a day of each option's own, one row for colonies of an apiary
-- and day.
SELECT r.apiary_id, r.apiary, a.latitude, a.longitude, r.option_id, l.done_on AS placed_on, r.product_label,
       array_agg(r.label ORDER BY length(r.label), r.label) AS labels,
       (array_agg(r.id ORDER BY length(r.label), r.label))[1] AS course_id
FROM unnest(:options::text[], :since::date[]) AS o (option_id, since)
JOIN course t ON t.is_open AND t.state = 'under_way' AND t.option_id = o.option_id AND t.placed_on >= o.since
JOIN course_record r ON r.id = t.id
JOIN colony c ON c.id = t.colony_id AND c.is_living
JOIN apiary a ON a.id = r.apiary_id
CROSS JOIN LATERAL (SELECT max(x.done_on) AS done_on FROM course_act x
                    WHERE x.course_id = t.id AND x.step LIKE 'place%%' AND x.outcome = 'done') l
GROUP BY r.apiary_id, r.apiary, a.latitude, a.longitude, r.option_id, l.done_on, r.product_label
ORDER BY r.apiary, l.done_on, r.option_id;

-- name: over_without_course
-- Colonies at act or urgent that no open course answers, by apiary. Its colonies are looked at where an apiary is shown.
WITH first AS (
    SELECT n.*, a.name AS apiary, k.name AS keeper
    FROM apiary_now n JOIN apiary a ON a.id = n.apiary_id JOIN keeper k ON k.id = a.keeper_id
    WHERE n.over_alone > 0 AND (:apiaries::uuid[] IS NULL OR n.apiary_id = ANY (:apiaries))
    ORDER BY n.over_urgent DESC, n.over_highest DESC, a.name LIMIT :most
)
SELECT f.apiary_id, f.apiary, f.keeper, f.over_alone AS colonies, c.labels, c.ids, f.over_urgent AS urgent, c.act_at,
       c.scheme, f.over_highest AS highest, c.scale, c.oldest_count_on, c.overdue_from
FROM first f
CROSS JOIN LATERAL (
    SELECT array_agg(c.label ORDER BY length(c.label), c.label) AS labels,
           array_agg(c.colony_id ORDER BY length(c.label), c.label) AS ids, max(c.act_at) AS act_at, min(c.scheme) AS scheme,
           CASE WHEN bool_or(c.scale = 'mites_per_100') THEN 'mites_per_100' ELSE min(c.scale) END AS scale,
           min(c.counted_on) AS oldest_count_on, min(c.overdue_from) AS overdue_from
    FROM colony_now c WHERE c.apiary_id = f.apiary_id AND c.is_over AND NOT c.in_course) c
ORDER BY f.over_urgent DESC, f.over_highest DESC, f.apiary;

-- name: counts_due
-- Living colonies to count: never counted, known no longer, or due soon; not those whose course will be verified anyway.
WITH first AS (
    SELECT n.apiary_id, a.name AS apiary, k.name AS keeper, n.lost,
           least(n.lost_from, CASE WHEN n.recount_from <= :until THEN n.recount_from END) AS due_on
    FROM apiary_now n JOIN apiary a ON a.id = n.apiary_id JOIN keeper k ON k.id = a.keeper_id
    WHERE (n.lost > 0 OR n.recount_from <= :until) AND (:apiaries::uuid[] IS NULL OR n.apiary_id = ANY (:apiaries))
    ORDER BY n.lost DESC, due_on, a.name LIMIT :most
)
SELECT f.apiary_id, f.apiary, f.keeper, c.colonies, c.labels, c.ids, c.never, c.too_old, c.level, f.due_on,
       c.oldest_count_on
FROM first f
CROSS JOIN LATERAL (
    SELECT count(*) AS colonies, array_agg(c.label ORDER BY length(c.label), c.label) AS labels,
           array_agg(c.colony_id ORDER BY length(c.label), c.label) AS ids,
           count(*) FILTER (WHERE c.counted_on IS NULL) AS never,
           count(*) FILTER (WHERE c.level = 'unknown' AND c.counted_on IS NOT NULL) AS too_old,
           (array_agg(l.name ORDER BY l.attention))[1] AS level, min(c.counted_on) AS oldest_count_on
    FROM colony_now c JOIN level l ON l.name = c.level
    WHERE c.apiary_id = f.apiary_id AND NOT c.in_hive
    AND (c.counted_on IS NULL OR c.level = 'unknown' OR (c.recount_on <= :until AND c.level IN ('clear', 'watch')))) c
ORDER BY f.lost DESC, f.due_on, f.apiary;

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
AND (:apiaries::uuid[] IS NULL OR c.apiary_id = ANY (:apiaries))
GROUP BY c.apiary_id, a.id, k.id ORDER BY min(b.placed_at), a.name LIMIT :most;

-- name: visits_due
-- Living colonies whose last closed visit set a next one by a day; those open already are being visited.
WITH first AS (
    SELECT n.apiary_id, a.name AS apiary, k.name AS keeper, n.visit_from AS due_on
    FROM apiary_now n JOIN apiary a ON a.id = n.apiary_id JOIN keeper k ON k.id = a.keeper_id
    WHERE n.visit_from <= :until AND (:apiaries::uuid[] IS NULL OR n.apiary_id = ANY (:apiaries))
    ORDER BY n.visit_from, a.name LIMIT :most
)
SELECT f.apiary_id, f.apiary, f.keeper, c.colonies, c.labels, c.ids, f.due_on, c.overdue, c.why
FROM first f
CROSS JOIN LATERAL (
    SELECT count(*) AS colonies, array_agg(c.label ORDER BY length(c.label), c.label) AS labels,
           array_agg(c.colony_id ORDER BY length(c.label), c.label) AS ids,
           count(*) FILTER (WHERE c.next_visit < :today) AS overdue,
           coalesce(mode() WITHIN GROUP (ORDER BY c.next_why), '') AS why
    FROM colony_now c WHERE c.apiary_id = f.apiary_id AND c.next_visit <= :until AND NOT c.visit_open) c
ORDER BY f.due_on, f.apiary;

-- name: totals
SELECT coalesce(sum(n.colonies), 0) AS colonies, count(*) AS apiaries, count(*) FILTER (WHERE w.key < 'z') AS with_work
FROM apiary_now n LEFT JOIN apiary_work w USING (apiary_id);

-- name: anything_turned
SELECT EXISTS (SELECT FROM work_turned) OR EXISTS (SELECT FROM apiary_work WHERE holds_until <= :now);

-- name: judge_alone
-- Of those who read the order at once, one judges what has turned; the others find it done.
SELECT pg_advisory_xact_lock(hashtextextended('work of ' || my_association()::text, 0));

-- name: take_turned
-- Taken before they are judged: what is written meanwhile stays for the next.
WITH taken AS (DELETE FROM work_turned RETURNING apiary_id)
SELECT apiary_id FROM taken UNION SELECT apiary_id FROM apiary_work WHERE holds_until <= :now;

-- name: keep_work
INSERT INTO apiary_work AS w (apiary_id, association_id, key, due, holds_until)
SELECT t.apiary_id, my_association(), CASE t.key WHEN 'z' THEN 'z ' || lower(a.name) ELSE t.key END, t.due::jsonb,
       (SELECT min(b.placed_at) + interval '20 hours' FROM insert_board b JOIN colony c ON c.id = b.colony_id AND c.is_living
        WHERE c.apiary_id = t.apiary_id AND b.removed_at IS NULL AND b.placed_at > :now::timestamptz - interval '20 hours')
FROM unnest(:apiaries::uuid[], :keys::text[], :dues::text[]) AS t (apiary_id, key, due) JOIN apiary a ON a.id = t.apiary_id
ON CONFLICT (apiary_id) DO UPDATE SET key = excluded.key, due = excluded.due, holds_until = excluded.holds_until;

-- name: work_in_order
-- Apiaries with work, the one whose work must begin first on top, from one of them on.
SELECT w.apiary_id, a.name AS apiary, k.name AS keeper, w.due, w.key
FROM apiary_work w JOIN apiary a ON a.id = w.apiary_id JOIN keeper k ON k.id = a.keeper_id
WHERE w.key < 'z' AND (w.key, w.apiary_id) > (:after_key, :after_id::uuid)
ORDER BY w.key, w.apiary_id LIMIT :most;

-- name: rates_by_apiary
-- How each living colony of some apiaries stands: its level today and the figure of its latest count.
SELECT apiary_id, label, level, median AS rate, scale, counted_on FROM colony_now
WHERE apiary_id = ANY (:apiaries) ORDER BY apiary_id, length(label), label;
