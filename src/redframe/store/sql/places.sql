-- name: keepers
SELECT id, name, phone, registration, version FROM keeper ORDER BY name, id;

-- name: add_keeper
INSERT INTO keeper (id, association_id, name, phone, registration)
VALUES (:id, my_association(), :name, :phone, :registration);

-- name: apiaries_overview
-- Every apiary with how its living colonies stand on a day and how old the knowledge is.
SELECT a.id, a.name, a.keeper_id, k.name AS keeper, a.latitude, a.longitude, a.elevation_m, n.colonies, n.urgent, n.act,
       n.watch, n.clear, n.unknown, n.oldest_count_on, n.newest_count_on, n.in_course, n.highest,
       coalesce(f.colonies, 0) AS forecast_of, coalesce(f.over, 0) AS forecast_over, f.over_next_by,
       coalesce(f.over_in_three_weeks, 0) AS over_in_three_weeks
FROM apiary_now n
JOIN apiary a ON a.id = n.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN (
    SELECT c.apiary_id, count(*) AS colonies, count(*) FILTER (WHERE f.date50 <= :today) AS over,
           min(f.date50) FILTER (WHERE f.date50 > :today) AS over_next_by,
           count(*) FILTER (WHERE f.date50 > :today AND f.date50 <= :today + 21) AS over_in_three_weeks
    FROM colony_forecast f JOIN colony_now c ON c.colony_id = f.colony_id GROUP BY c.apiary_id) f ON f.apiary_id = a.id
ORDER BY a.name, a.id;

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
