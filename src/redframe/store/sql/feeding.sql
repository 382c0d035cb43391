-- name: apiaries_to_feed
-- Apiaries with living colonies, by name, behind a key and an apiary.
SELECT a.id, a.name, k.name AS keeper, lower(a.name) COLLATE "C" AS key
FROM apiary a JOIN keeper k ON k.id = a.keeper_id
WHERE (:find::text = '' OR strpos(lower(a.name || ' ' || k.name), :find::text) > 0)
  AND (lower(a.name) COLLATE "C", a.id) > (:after_key::text, :after_id::uuid)
  AND EXISTS (SELECT FROM colony c WHERE c.apiary_id = a.id AND c.is_living)
ORDER BY key, a.id LIMIT :most;

-- name: colonies_to_feed
-- The living colonies of apiaries with their last strength, and whether they are over their level on a day.
SELECT c.id, c.apiary_id, c.label, v.strength, coalesce(s.is_over, false) AS is_over
FROM colony c
LEFT JOIN LATERAL (SELECT l.is_over FROM colony_status k JOIN level l ON l.name = k.level
                   WHERE k.colony_id = c.id AND k.since <= :today AND (k.until IS NULL OR k.until > :today) LIMIT 1) s ON true
LEFT JOIN LATERAL (SELECT strength FROM visit WHERE colony_id = c.id AND state = 'closed' AND strength IS NOT NULL
                   ORDER BY visited_on DESC, created_at DESC LIMIT 1) v ON true
WHERE c.apiary_id = ANY(:apiary_ids) AND c.is_living ORDER BY length(c.label), c.label, c.id;
