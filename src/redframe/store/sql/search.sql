-- name: search
-- Apiaries, colonies, keepers and queens that have every word in what people call them, the closest first: called exactly
-- so, then labels that are one of the words, then names that begin so. A queen is found by her colour or her year.
WITH apiaries AS (
    SELECT a.id, a.name, k.name AS keeper, a.keeper_id FROM apiary a JOIN keeper k ON k.id = a.keeper_id
), former AS (
    SELECT colony_id, string_agg(DISTINCT previous, ' ') AS labels FROM colony_event WHERE kind = 'renumbered' GROUP BY colony_id
), colonies AS (
    SELECT c.id, c.label, c.state, c.is_living, a.id AS apiary_id, a.name AS apiary, a.keeper, coalesce(f.labels, '') AS former
    FROM colony c JOIN apiaries a ON a.id = c.apiary_id LEFT JOIN former f ON f.colony_id = c.id
), queens AS (
    SELECT q.id, c.id AS colony_id, c.label, c.state, c.is_living, c.apiary_id, c.apiary, c.keeper, c.former, q.year,
           coalesce(q.mark_seen, (:colours::text[])[mod(q.year, 5) + 1]) AS colour
    FROM queen q JOIN colonies c ON c.id = q.colony_id WHERE q.until IS NULL AND c.is_living
), named AS (
    SELECT 'apiary' AS kind, id, name AS title, id AS apiary_id, name AS apiary, keeper, '' AS former, NULL::integer AS year,
           NULL AS colour, NULL AS state, true AS is_living, concat_ws(' ', name, keeper) AS called, 1 AS place FROM apiaries
    UNION ALL
    SELECT 'colony', id, label, apiary_id, apiary, keeper, former, NULL, NULL, state, is_living,
           concat_ws(' ', label, former, apiary, keeper), 2 FROM colonies
    UNION ALL
    SELECT 'keeper', id, name, NULL, NULL, name, '', NULL, NULL, NULL, true, concat_ws(' ', name, registration), 3 FROM keeper
    UNION ALL
    SELECT 'queen', colony_id, label, apiary_id, apiary, keeper, former, year, colour, state, is_living,
           concat_ws(' ', colour, year, label, former, apiary, keeper), 4
    FROM queens WHERE EXISTS (SELECT FROM unnest(:words::text[]) AS w WHERE colour = w OR year::text = w)
), found AS (
    SELECT *, CASE WHEN lower(title) = :whole THEN 0 WHEN lower(title) = ANY(:words) THEN 1
                   WHEN starts_with(lower(title), :whole) THEN 2 ELSE 3 END AS distance
    FROM named WHERE lower(called) LIKE ALL(:patterns)
), ranked AS (
    SELECT *, row_number() OVER (PARTITION BY kind ORDER BY distance, is_living DESC, apiary, length(title), title, id) AS number
    FROM found
)
SELECT kind, id, title, apiary_id, apiary, keeper, former, year, colour, state, is_living
FROM ranked WHERE number <= :most ORDER BY distance, is_living DESC, place, apiary, length(title), title, id;
