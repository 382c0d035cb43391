-- name: keepers
SELECT id, name, phone, registration, version FROM keeper ORDER BY name, id;

-- name: add_keeper
INSERT INTO keeper (id, association_id, name, phone, registration)
VALUES (:id, my_association(), :name, :phone, :registration);

-- name: apiaries_overview
-- Every apiary with how its living colonies stand on a day and how old the knowledge is. A colony without a colony_status
-- is unknown.
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, a.latitude, a.longitude, a.elevation_m,
       count(c.id) AS colonies,
       count(*) FILTER (WHERE s.level = 'urgent') AS urgent, count(*) FILTER (WHERE s.level = 'act') AS act,
       count(*) FILTER (WHERE s.level = 'watch') AS watch, count(*) FILTER (WHERE s.level = 'clear') AS clear,
       count(*) FILTER (WHERE c.id IS NOT NULL AND coalesce(s.level, 'unknown') = 'unknown') AS unknown,
       min(o.counted_on) AS oldest_count_on, max(o.counted_on) AS newest_count_on,
       count(*) FILTER (WHERE EXISTS (SELECT FROM course t WHERE t.colony_id = c.id
                                      AND t.is_open)) AS in_course,
       max(o.median) AS highest, count(f.colony_id) AS forecast_of,
       count(*) FILTER (WHERE f.date50 <= :today) AS forecast_over, min(f.date50) FILTER (WHERE f.date50 > :today) AS over_next_by,
       count(*) FILTER (WHERE f.date50 > :today AND f.date50 <= :today + 21) AS over_in_three_weeks
FROM apiary a
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN colony c ON c.apiary_id = a.id AND c.is_living
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= :today AND (s.until IS NULL OR s.until > :today)
LEFT JOIN outlook o ON o.colony_id = c.id
LEFT JOIN colony_forecast f ON f.colony_id = c.id
GROUP BY a.id, k.id ORDER BY a.name, a.id;

-- name: apiary
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, a.latitude, a.longitude, a.elevation_m, a.access_note,
       a.forage_note, a.version
FROM apiary a JOIN keeper k ON k.id = a.keeper_id WHERE a.id = :id;

-- name: urgent_neighbours
-- Apiaries within some kilometres, on the sphere, that hold urgent colonies; of those that the person may see.
SELECT n.id, n.name, n.km, n.urgent FROM (
    SELECT b.id, b.name,
           2 * 6371.0 * asin(least(1.0, sqrt(power(sin(radians(b.latitude - a.latitude) / 2), 2)
               + cos(radians(a.latitude)) * cos(radians(b.latitude)) * power(sin(radians(b.longitude - a.longitude) / 2), 2)))) AS km,
           (SELECT count(*) FROM colony c JOIN colony_status s ON s.colony_id = c.id AND s.since <= :today
                AND (s.until IS NULL OR s.until > :today) AND s.level = 'urgent'
            WHERE c.apiary_id = b.id AND c.is_living) AS urgent
    FROM apiary a JOIN apiary b ON b.id <> a.id AND b.latitude BETWEEN a.latitude - :km / 110.0 AND a.latitude + :km / 110.0
    WHERE a.id = :id
) n WHERE n.km <= :km AND n.urgent > 0 ORDER BY n.km, n.id;

-- name: add_apiary
INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude, elevation_m, access_note, forage_note)
VALUES (:id, my_association(), :keeper_id, :name, :latitude, :longitude, :elevation_m, :access_note, :forage_note);

-- name: amend_apiary
UPDATE apiary SET name = :name, latitude = :latitude, longitude = :longitude, elevation_m = :elevation_m,
       access_note = :access_note, forage_note = :forage_note
WHERE id = :id AND version = :version;

-- name: apiaries_of
SELECT id, apiary_id FROM colony WHERE id = ANY(:colony_ids);
