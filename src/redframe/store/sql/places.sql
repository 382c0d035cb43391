-- name: keepers
SELECT id, name, phone, registration, version FROM keeper ORDER BY name, id;

-- name: add_keeper
INSERT INTO keeper (id, association_id, name, phone, registration)
VALUES (:id, my_association(), :name, :phone, :registration);

-- name: apiaries_page
-- Apiaries with how their living colonies stand and what is due there, in one of the orders, behind a key and an apiary.
WITH ahead AS (
    SELECT c.apiary_id, count(*) FILTER (WHERE f.date50 <= :today) AS over,
           min(f.date50) FILTER (WHERE f.date50 > :today) AS next_by
    FROM colony_forecast f JOIN colony_now c ON c.colony_id = f.colony_id GROUP BY c.apiary_id
), fitting AS (
    SELECT a.id, a.name, a.keeper_id, k.name AS keeper, n.colonies, n.urgent, n.act, n.watch, n.clear, n.unknown,
           n.oldest_count_on, n.newest_count_on, n.in_course, n.highest, w.due, l.name AS worst,
           CASE :sort::text WHEN 'by' THEN w.key WHEN 'name' THEN lower(a.name)
               WHEN 'level' THEN coalesce(l.attention, 9) || lower(a.name)
               WHEN 'highest' THEN to_char(1000000 - coalesce(n.highest, -1), 'FM0000000.0000') || lower(a.name)
               WHEN 'counted' THEN coalesce(n.oldest_count_on::text, '0') || lower(a.name)
               WHEN 'forecast' THEN CASE WHEN h.over > 0 THEN '0' || to_char(99999 - h.over, 'FM00000')
                   WHEN h.next_by IS NOT NULL THEN '1' || h.next_by WHEN h.apiary_id IS NOT NULL THEN '8' ELSE '9' END
                   || lower(a.name)
           END COLLATE "C" AS key
    FROM apiary_work w
    JOIN apiary a ON a.id = w.apiary_id
    JOIN keeper k ON k.id = a.keeper_id
    JOIN apiary_now n ON n.apiary_id = w.apiary_id
    LEFT JOIN level l ON l.name = CASE WHEN n.urgent > 0 THEN 'urgent' WHEN n.act > 0 THEN 'act'
        WHEN n.unknown > 0 THEN 'unknown' WHEN n.watch > 0 THEN 'watch' WHEN n.clear > 0 THEN 'clear' END
    LEFT JOIN ahead h ON :sort::text = 'forecast' AND h.apiary_id = w.apiary_id
    WHERE (:find = '' OR strpos(lower(a.name || ' ' || k.name), :find) > 0) AND (:level::text IS NULL OR l.name = :level)
), page AS (
    SELECT * FROM fitting WHERE (key, id) > (:after_key, :after_id::uuid) ORDER BY key, id LIMIT :most
)
SELECT p.*, f.of AS forecast_of, f.over AS forecast_over, f.next_by AS over_next_by
FROM page p CROSS JOIN LATERAL (
    SELECT count(*) AS of, count(*) FILTER (WHERE f.date50 <= :today) AS over,
           min(f.date50) FILTER (WHERE f.date50 > :today) AS next_by
    FROM colony_now c JOIN colony_forecast f ON f.colony_id = c.colony_id WHERE c.apiary_id = p.id) f
ORDER BY p.key, p.id;

-- name: apiaries_in_order_of_work
-- The same in the order of their work, all of them: read from where that order is kept, so that it costs what it shows.
WITH page AS (
    SELECT w.apiary_id, w.key, w.due FROM apiary_work w WHERE (w.key, w.apiary_id) > (:after_key, :after_id::uuid)
    ORDER BY w.key, w.apiary_id LIMIT :most
)
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, n.colonies, n.urgent, n.act, n.watch, n.clear, n.unknown,
       n.oldest_count_on, n.newest_count_on, n.in_course, n.highest, p.due, l.name AS worst, p.key,
       f.of AS forecast_of, f.over AS forecast_over, f.next_by AS over_next_by
FROM page p
JOIN apiary a ON a.id = p.apiary_id
JOIN keeper k ON k.id = a.keeper_id
JOIN apiary_now n ON n.apiary_id = p.apiary_id
LEFT JOIN level l ON l.name = CASE WHEN n.urgent > 0 THEN 'urgent' WHEN n.act > 0 THEN 'act'
    WHEN n.unknown > 0 THEN 'unknown' WHEN n.watch > 0 THEN 'watch' WHEN n.clear > 0 THEN 'clear' END
CROSS JOIN LATERAL (
    SELECT count(*) AS of, count(*) FILTER (WHERE f.date50 <= :today) AS over,
           min(f.date50) FILTER (WHERE f.date50 > :today) AS next_by
    FROM colony_now c JOIN colony_forecast f ON f.colony_id = c.colony_id WHERE c.apiary_id = p.apiary_id) f
ORDER BY p.key, p.apiary_id;

-- name: apiary_places
-- Every apiary that fits, as a map and a choice of one need it.
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, a.latitude, a.longitude, a.elevation_m, n.colonies, n.oldest_count_on,
       n.newest_count_on, n.highest, l.name AS worst, coalesce(:today - n.oldest_count_on > :longest, false) AS old
FROM apiary_now n
JOIN apiary a ON a.id = n.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN level l ON l.name = CASE WHEN n.urgent > 0 THEN 'urgent' WHEN n.act > 0 THEN 'act'
    WHEN n.unknown > 0 THEN 'unknown' WHEN n.watch > 0 THEN 'watch' WHEN n.clear > 0 THEN 'clear' END
WHERE (:find = '' OR strpos(lower(a.name || ' ' || k.name), :find) > 0) AND (:level::text IS NULL OR l.name = :level)
ORDER BY lower(a.name), a.id;

-- name: apiary_names
SELECT id, name, keeper_id FROM apiary;

-- name: place_totals
SELECT count(*) AS apiaries, coalesce(sum(colonies), 0) AS colonies, (SELECT count(*) FROM keeper) AS keepers FROM apiary_now;

-- name: apiary
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, a.latitude, a.longitude, a.elevation_m, a.access_note,
       a.forage_note, a.version
FROM apiary a JOIN keeper k ON k.id = a.keeper_id WHERE a.id = :id;

-- name: urgent_neighbours
-- Apiaries within some kilometres, on the sphere, that hold urgent colonies; of those that the person may see.
SELECT n.id, n.name, n.km, t.urgent FROM (
    SELECT b.id, b.name,
           2 * 6371.0 * asin(least(1.0, sqrt(power(sin(radians(b.latitude - a.latitude) / 2), 2)
               + cos(radians(a.latitude)) * cos(radians(b.latitude)) * power(sin(radians(b.longitude - a.longitude) / 2), 2)))) AS km
    FROM apiary a JOIN apiary b ON b.id <> a.id AND b.latitude BETWEEN a.latitude - :km / 110.0 AND a.latitude + :km / 110.0
    WHERE a.id = :id
) n JOIN apiary_now t ON t.apiary_id = n.id AND t.urgent > 0 WHERE n.km <= :km ORDER BY n.km, n.id;

-- name: add_apiary
INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude, elevation_m, access_note, forage_note)
VALUES (:id, my_association(), :keeper_id, :name, :latitude, :longitude, :elevation_m, :access_note, :forage_note);

-- name: amend_apiary
UPDATE apiary SET name = :name, latitude = :latitude, longitude = :longitude, elevation_m = :elevation_m,
       access_note = :access_note, forage_note = :forage_note
WHERE id = :id AND version = :version;

-- name: apiaries_of
SELECT id, apiary_id FROM colony WHERE id = ANY(:colony_ids);
