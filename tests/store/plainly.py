"""How the pages of many colonies were read before narrow rows: each statement looks at every record anew."""

from __future__ import annotations

PLAINLY = {
    "over_without_course": """
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       count(*) FILTER (WHERE s.level = 'urgent') AS urgent, max(s.act_at) AS act_at, min(s.scheme) AS scheme,
       coalesce(max(o.median) FILTER (WHERE o.scale = 'mites_per_100'), max(o.median)) AS highest,
       CASE WHEN bool_or(o.scale = 'mites_per_100') THEN 'mites_per_100' ELSE min(o.scale) END AS scale,
       min(o.counted_on) AS oldest_count_on, min(s.overdue_from) AS overdue_from
FROM colony_status s
JOIN colony c ON c.id = s.colony_id AND c.is_living
JOIN outlook o ON o.colony_id = c.id
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
WHERE s.level IN (SELECT name FROM level WHERE is_over) AND s.since <= %(today)s AND (s.until IS NULL OR s.until > %(today)s)
AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = c.id
                AND t.is_open)
GROUP BY c.apiary_id, a.id, k.id ORDER BY urgent DESC, highest DESC, a.name
LIMIT %(most)s
""",
    "counts_due": """
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       count(*) FILTER (WHERE o.colony_id IS NULL) AS never, count(*) FILTER (WHERE s.level = 'unknown') AS too_old,
       (array_agg(l.name ORDER BY l.attention))[1] AS level,
       min(o.recount_on) AS due_on, min(o.counted_on) AS oldest_count_on
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= %(today)s AND (s.until IS NULL OR s.until > %(today)s)
JOIN level l ON l.name = coalesce(s.level, 'unknown')
WHERE c.is_living
AND (o.colony_id IS NULL OR s.level = 'unknown' OR (o.recount_on <= %(until)s AND s.level IN ('clear', 'watch')))
AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = c.id AND t.is_open AND t.placed_on IS NOT NULL)
GROUP BY c.apiary_id, a.id, k.id
ORDER BY count(*) FILTER (WHERE o.colony_id IS NULL OR s.level = 'unknown') DESC, min(o.recount_on), a.name LIMIT %(most)s
""",
    "visits_due": """
SELECT c.apiary_id, a.name AS apiary, k.name AS keeper, count(*) AS colonies,
       array_agg(c.label ORDER BY length(c.label), c.label) AS labels, array_agg(c.id ORDER BY length(c.label), c.label) AS ids,
       min(l.next_visit) AS due_on, count(*) FILTER (WHERE l.next_visit < %(today)s) AS overdue,
       coalesce(mode() WITHIN GROUP (ORDER BY l.why), '') AS why
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
CROSS JOIN LATERAL (SELECT v.next_visit, v.after ->> 'next_why' AS why FROM visit v
                    WHERE v.colony_id = c.id AND v.state = 'closed' ORDER BY v.visited_on DESC, v.created_at DESC LIMIT 1) l
WHERE c.is_living AND l.next_visit <= %(until)s
AND NOT EXISTS (SELECT FROM visit d WHERE d.colony_id = c.id AND d.state = 'draft')
GROUP BY c.apiary_id, a.id, k.id ORDER BY min(l.next_visit), a.name LIMIT %(most)s
""",
    "rates_by_apiary": """
SELECT c.apiary_id, c.label, coalesce(s.level, 'unknown') AS level, o.median AS rate, o.scale, o.counted_on
FROM colony c
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= %(today)s AND (s.until IS NULL OR s.until > %(today)s)
WHERE c.is_living AND c.apiary_id = ANY (%(apiaries)s)
ORDER BY c.apiary_id, length(c.label), c.label
""",
    "apiaries_page": """
SELECT a.id, a.name, a.keeper_id, k.name AS keeper,
       count(c.id) AS colonies,
       count(*) FILTER (WHERE s.level = 'urgent') AS urgent, count(*) FILTER (WHERE s.level = 'act') AS act,
       count(*) FILTER (WHERE s.level = 'watch') AS watch, count(*) FILTER (WHERE s.level = 'clear') AS clear,
       count(*) FILTER (WHERE c.id IS NOT NULL AND coalesce(s.level, 'unknown') = 'unknown') AS unknown,
       min(o.counted_on) AS oldest_count_on, max(o.counted_on) AS newest_count_on,
       count(*) FILTER (WHERE EXISTS (SELECT FROM course t WHERE t.colony_id = c.id
                                      AND t.is_open)) AS in_course,
       max(o.median) AS highest, count(f.colony_id) AS forecast_of,
       count(*) FILTER (WHERE f.date50 <= %(today)s) AS forecast_over, min(f.date50) FILTER (WHERE f.date50 > %(today)s) AS over_next_by
FROM apiary a
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN colony c ON c.apiary_id = a.id AND c.is_living
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= %(today)s AND (s.until IS NULL OR s.until > %(today)s)
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_forecast f ON f.colony_id = c.id
GROUP BY a.id, k.id ORDER BY lower(a.name) COLLATE "C", a.id
""",
    "urgent_neighbours": """
SELECT n.id, n.name, n.km, n.urgent FROM (
    SELECT b.id, b.name,
           2 * 6371.0 * asin(least(1.0, sqrt(power(sin(radians(b.latitude - a.latitude) / 2), 2)
               + cos(radians(a.latitude)) * cos(radians(b.latitude)) * power(sin(radians(b.longitude - a.longitude) / 2), 2)))) AS km,
           (SELECT count(*) FROM colony c JOIN colony_status s ON s.colony_id = c.id AND s.since <= %(today)s
                AND (s.until IS NULL OR s.until > %(today)s) AND s.level = 'urgent'
            WHERE c.apiary_id = b.id AND c.is_living) AS urgent
    FROM apiary a JOIN apiary b ON b.id <> a.id AND b.latitude BETWEEN a.latitude - %(km)s / 110.0 AND a.latitude + %(km)s / 110.0
    WHERE a.id = %(id)s
) n WHERE n.km <= %(km)s AND n.urgent > 0 ORDER BY n.km, n.id
""",
}
