-- name: examinations_of_colonies
-- Examinations of brood at closed visits since a day, oldest first, and whether the place of the visit kept its season.
SELECT colony_id, visited_on, after -> 'examination' AS examination, place -> 'disease' ->> 'season' AS season,
       place ->> 'phase' AS phase
FROM visit WHERE colony_id = ANY(:colony_ids) AND visited_on >= :since AND state = 'closed'
AND jsonb_typeof(after -> 'examination') = 'object'
ORDER BY visited_on, closed_at, id;

-- name: suspicious_colonies
-- Colonies of which the last closed visit saw a sign that is not explained.
SELECT colony_id FROM (
    SELECT DISTINCT ON (colony_id) colony_id, suspicious FROM visit
    WHERE colony_id = ANY(:colony_ids) AND state = 'closed'
    ORDER BY colony_id, visited_on DESC, created_at DESC, id
) last WHERE suspicious <> '{}';
