-- name: movements_on_record
-- What went from one colony to another since a day. A comb that lay in store, a place elsewhere, the extractor of a day are
-- places of their own, to which something came and from which it went.
SELECT id, earliest, latest, coalesce(from_colony::text, node) AS origin, coalesce(to_colony::text, node) AS target, kind,
       certainty, is_disinfected
FROM contact_log WHERE latest >= :since AND earliest <= :until
UNION ALL
-- The hive that the same person opened next on the same day: the tools went along unless they were cleaned.
SELECT 'tools ' || v.id, v.visited_on, v.visited_on, v.colony_id::text, v.next_colony::text, 'tools', 'inferred', false
FROM (SELECT id, visited_on, colony_id, lead(colony_id) OVER same_round AS next_colony FROM visit
      WHERE state = 'closed' AND visited_on BETWEEN :since AND :until
      WINDOW same_round AS (PARTITION BY visited_on, by_person ORDER BY coalesce(opened_at, closed_at), created_at, id)) v
WHERE v.next_colony IS NOT NULL AND v.next_colony <> v.colony_id
UNION ALL
-- Honey of one keeper taken on one day went through one extractor: what it carries came in with the combs of some and goes
-- home with those of others.
SELECT way || h.id, h.harvested_on, h.harvested_on, CASE way WHEN 'in ' THEN h.colony_id::text ELSE h.node END,
       CASE way WHEN 'in ' THEN h.node ELSE h.colony_id::text END, CASE way WHEN 'in ' THEN 'transfer' ELSE 'extractor' END,
       CASE way WHEN 'in ' THEN 'seen' ELSE 'inferred' END, false
FROM (SELECT h.id, h.harvested_on, h.colony_id, 'extractor ' || h.harvested_on || ' ' || a.keeper_id AS node,
             count(*) OVER (PARTITION BY h.harvested_on, a.keeper_id) AS hives
      FROM harvest h JOIN colony c ON c.id = h.colony_id JOIN apiary a ON a.id = c.apiary_id
      WHERE h.withdrawn_why = '' AND h.harvested_on BETWEEN :since AND :until) h
CROSS JOIN (VALUES ('in '), ('out ')) AS ways (way)
WHERE h.hives > 1;

-- name: places_elsewhere
-- The words of places elsewhere by their nodes.
SELECT DISTINCT ON (node) node, elsewhere FROM movement WHERE other_colony_id IS NULL AND latest >= :since
ORDER BY node, created_at;

-- name: stays_on_record
-- Where colonies stood: each with the moves that took it there and its labels, in their order, its last examination, and
-- whether it is suspect: an open case, or a sign seen at a visit since, examination or not.
SELECT c.id AS colony_id, c.label, c.apiary_id, a.name AS apiary, k.name AS keeper, a.latitude, a.longitude, c.is_living,
       CASE WHEN c.is_living THEN NULL ELSE c.state_since END AS ended_on,
       coalesce(e.began_on, c.state_since) AS began_on, coalesce(e.moved_on, '{}') AS moved_on,
       coalesce(e.moved_from, '{}') AS moved_from, coalesce(e.renumbered_on, '{}') AS renumbered_on,
       coalesce(e.labels, '{}') AS labels, v.visited_on AS examined_on,
       coalesce((v.examination ->> 'combs_read')::int, 0) AS combs_read,
       coalesce((v.examination ->> 'brood_combs')::int, 0) AS brood_combs, coalesce(v.suspicious = '{}', true) AS is_clean,
       EXISTS (SELECT FROM disease_case d WHERE d.colony_id = c.id AND d.state NOT IN ('not_supported', 'released', 'closed'))
           OR coalesce(s.suspicious_on >= coalesce(v.visited_on, s.suspicious_on), false) AS is_suspect
FROM colony c JOIN apiary a ON a.id = c.apiary_id JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN (SELECT colony_id, min(happened_on) AS began_on,
                  array_agg(happened_on ORDER BY happened_on, created_at) FILTER (WHERE is_move) AS moved_on,
                  array_agg(previous_apiary ORDER BY happened_on, created_at) FILTER (WHERE is_move) AS moved_from,
                  array_agg(happened_on ORDER BY happened_on, created_at) FILTER (WHERE kind = 'renumbered') AS renumbered_on,
                  array_agg(previous ORDER BY happened_on, created_at) FILTER (WHERE kind = 'renumbered') AS labels
           FROM (SELECT *, kind = 'moved' AND previous_apiary IS NOT NULL AS is_move FROM colony_event) one
           GROUP BY colony_id) e ON e.colony_id = c.id
LEFT JOIN (SELECT DISTINCT ON (colony_id) colony_id, visited_on, after -> 'examination' AS examination, suspicious FROM visit
           WHERE state = 'closed' AND after ? 'examination' ORDER BY colony_id, visited_on DESC, created_at DESC) v
    ON v.colony_id = c.id
LEFT JOIN (SELECT colony_id, max(visited_on) AS suspicious_on FROM visit WHERE state = 'closed' AND suspicious <> '{}'
           GROUP BY colony_id) s ON s.colony_id = c.id
ORDER BY length(c.label), c.label, c.id;

-- name: clean_examinations
-- The last day before another on which all brood of a colony was looked at and no sign of brood disease was recorded.
SELECT max(v.visited_on) AS last FROM visit v
WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on < :before AND v.suspicious = '{}'
AND coalesce((v.after -> 'examination' ->> 'brood_combs')::int, 0) > 0
AND (v.after -> 'examination' ->> 'combs_read')::int >= (v.after -> 'examination' ->> 'brood_combs')::int;

-- name: add_trace_list
INSERT INTO trace_list (id, association_id, case_id, number, made_on, content, by_person)
SELECT :id, my_association(), :case_id, 1 + coalesce(max(number), 0), :made_on, :content, my_person()
FROM trace_list WHERE case_id = :case_id;

-- name: trace_lists
SELECT number, made_on, created_at, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM trace_list WHERE case_id = :case_id ORDER BY number;

-- name: trace_list
SELECT content FROM trace_list WHERE case_id = :case_id AND number = :number;
