-- name: movements_on_record
-- What went from one colony to another since a day: combs, splits and mergers. A comb that lay in store is a place of its
-- own, to which it came and from which it went.
SELECT m.id::text AS id, m.moved_on AS earliest, m.moved_on AS latest,
       coalesce(m.from_colony::text, 'frame ' || m.frame_id) AS origin, coalesce(m.to_colony::text, 'frame ' || m.frame_id) AS target,
       CASE WHEN m.from_colony IS NULL THEN 'transfer' WHEN m.to_colony IS NULL THEN 'drawn_comb'
            WHEN b.purpose = 'super' THEN 'honey_frame' ELSE 'brood_frame' END AS kind, 'seen' AS certainty
FROM frame_move m LEFT JOIN hive_box b ON b.id = m.from_box
WHERE m.moved_on BETWEEN :since AND :until AND m.from_colony IS DISTINCT FROM m.to_colony
AND (m.from_colony IS NOT NULL OR m.to_colony IS NOT NULL)
UNION ALL
SELECT e.id::text, e.happened_on, e.happened_on,
       CASE e.kind WHEN 'split_from' THEN e.other_colony_id ELSE e.colony_id END::text,
       CASE e.kind WHEN 'split_from' THEN e.colony_id ELSE e.other_colony_id END::text,
       CASE e.kind WHEN 'split_from' THEN 'split' ELSE 'merge' END, 'seen'
FROM colony_event e
WHERE e.happened_on BETWEEN :since AND :until AND e.kind IN ('split_from', 'merged_into') AND e.other_colony_id IS NOT NULL
UNION ALL
-- The hive that the same person opened next on the same day: the tools went along unless they were cleaned.
SELECT 'tools ' || v.id, v.visited_on, v.visited_on, v.colony_id::text, v.next_colony::text, 'tools', 'inferred'
FROM (SELECT id, visited_on, colony_id, lead(colony_id) OVER same_round AS next_colony FROM visit
      WHERE state = 'closed' AND visited_on BETWEEN :since AND :until
      WINDOW same_round AS (PARTITION BY visited_on, by_person ORDER BY coalesce(opened_at, closed_at), created_at, id)) v
WHERE v.next_colony IS NOT NULL AND v.next_colony <> v.colony_id;

-- name: stays_on_record
-- Where colonies stood: each with the moves that took it there, in their order.
SELECT c.id AS colony_id, c.label, c.apiary_id, a.name AS apiary, k.name AS keeper, c.is_living,
       CASE WHEN c.is_living THEN NULL ELSE c.state_since END AS ended_on,
       coalesce((SELECT min(e.happened_on) FROM colony_event e WHERE e.colony_id = c.id), c.state_since) AS began_on,
       coalesce((SELECT array_agg(e.happened_on ORDER BY e.happened_on, e.created_at) FROM colony_event e
                 WHERE e.colony_id = c.id AND e.kind = 'moved' AND e.previous_apiary IS NOT NULL), '{}') AS moved_on,
       coalesce((SELECT array_agg(e.previous_apiary ORDER BY e.happened_on, e.created_at) FROM colony_event e
                 WHERE e.colony_id = c.id AND e.kind = 'moved' AND e.previous_apiary IS NOT NULL), '{}') AS moved_from,
       (SELECT max(v.visited_on) FROM visit v WHERE v.colony_id = c.id AND v.state = 'closed' AND v.after ? 'examination')
           AS last_examined
FROM colony c JOIN apiary a ON a.id = c.apiary_id JOIN keeper k ON k.id = a.keeper_id
ORDER BY length(c.label), c.label, c.id;

-- name: clean_examinations
-- Days on which all brood of a colony was looked at and no sign of brood disease was recorded, before a day.
SELECT max(v.visited_on) AS last FROM visit v
WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on < :before AND v.suspicious = '{}'
AND coalesce((v.after -> 'examination' ->> 'brood_combs')::int, 0) > 0
AND (v.after -> 'examination' ->> 'combs_read')::int >= (v.after -> 'examination' ->> 'brood_combs')::int;
