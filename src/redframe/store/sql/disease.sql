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

-- name: visits_with_signs
SELECT v.id FROM visit v WHERE v.state = 'closed' AND v.visited_on >= :since
AND EXISTS (SELECT FROM visit_frame f WHERE f.visit_id = v.id AND jsonb_array_length(coalesce(f.record -> 'signs', '[]')) > 0)
ORDER BY v.visited_on DESC, v.id LIMIT :most;

-- name: regions_said
SELECT version, created_at, coalesce((SELECT name FROM member WHERE member.id = created_by), '') AS by_name, disease_region
FROM policy WHERE association_id = my_association() ORDER BY version DESC LIMIT 500;
