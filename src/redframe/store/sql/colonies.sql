-- name: colonies_of_apiary
-- Living colonies first, each with its queen, its latest strength, its latest count and its colony_status on a day.
-- Looked up colony by colony (LIMIT keeps the planner from hashing whole tables under row-level security).
SELECT c.id, c.apiary_id, c.label, c.state, c.is_living, c.state_since, c.hive_id, c.note, c.version,
       q.id AS queen_id, q.year AS queen_year, q.mark_seen, q.status AS queen_status, q.since AS queen_since,
       q.laying_since, q.release_on, coalesce(q.version, 0) AS queen_version,
       v.visited_on AS strength_on, v.strength, v.strength_unit,
       l.name AS level, l.is_over, coalesce(s.reason, 'never_counted') AS level_reason, s.since AS level_since,
       s.phase, s.act_at, s.scheme, s.overdue_from,
       o.count_id, o.counted_on, o.scale, o.recovery, o.mites, o.bees_mean, o.median, o.low, o.high, o.recount_on,
       coalesce((SELECT m.targeted FROM mite_count m WHERE m.id = o.count_id), false) AS targeted
FROM colony c
LEFT JOIN LATERAL (SELECT * FROM queen WHERE colony_id = c.id AND until IS NULL LIMIT 1) q ON true
LEFT JOIN LATERAL (SELECT visited_on, strength, strength_unit FROM visit WHERE colony_id = c.id AND state = 'closed' AND strength IS NOT NULL
                   ORDER BY visited_on DESC, created_at DESC LIMIT 1) v ON true
LEFT JOIN LATERAL (SELECT * FROM colony_status WHERE colony_id = c.id AND since <= :today
                   AND (until IS NULL OR until > :today) LIMIT 1) s ON true
JOIN level l ON l.name = coalesce(s.level, 'unknown')
LEFT JOIN LATERAL (SELECT * FROM outlook WHERE colony_id = c.id LIMIT 1) o ON true
WHERE c.apiary_id = :apiary_id OR c.id = ANY(:colony_ids)
ORDER BY NOT c.is_living, length(c.label), c.label, c.id;

-- name: levels_of_apiary
-- The levels of the living colonies of an apiary on a day.
SELECT coalesce(s.level, 'unknown') AS level
FROM colony c
LEFT JOIN LATERAL (SELECT level FROM colony_status WHERE colony_id = c.id AND since <= :today
                   AND (until IS NULL OR until > :today) LIMIT 1) s ON true
WHERE c.apiary_id = :apiary_id AND c.is_living;

-- name: colony
SELECT id, apiary_id, label, state, is_living, state_since, hive_id, note, version FROM colony WHERE id = :id;

-- name: colony_names
SELECT c.id, c.label, c.apiary_id, a.name AS apiary FROM colony c JOIN apiary a ON a.id = c.apiary_id
WHERE c.id = ANY(:ids) ORDER BY a.name, length(c.label), c.label, c.id;

-- name: colonies_by_id
SELECT id, apiary_id, label, state, is_living, state_since, hive_id, note, version FROM colony WHERE id = ANY(:ids) ORDER BY label, id;

-- name: colony_for_update
SELECT id, apiary_id, label, state, is_living, state_since, hive_id, note, version FROM colony WHERE id = :id FOR UPDATE;

-- name: add_colony
INSERT INTO colony (id, association_id, apiary_id, hive_id, label, state, state_since, note)
VALUES (:id, my_association(), :apiary_id, :hive_id, :label, 'alive', :since, :note);

-- name: amend_colony
UPDATE colony SET label = :label, state = :state, state_since = :state_since, apiary_id = :apiary_id, hive_id = :hive_id,
       note = :note
WHERE id = :id AND version = :version;

-- name: add_colony_event
INSERT INTO colony_event (id, association_id, colony_id, kind, happened_on, other_colony_id, previous, current,
                          previous_apiary, rule, override_why, note, by_person)
VALUES (:id, my_association(), :colony_id, :kind, :happened_on, :other_colony_id, :previous, :current,
        :previous_apiary, :rule, :override_why, :note, my_person());

-- name: events_of_colony
-- Lineage of a colony, both ways: what happened to it, and what others became of it or went into it.
SELECT e.id, e.colony_id, e.kind, e.happened_on, e.other_colony_id, other.label AS other_label, own.label AS own_label,
       e.previous, e.current, e.previous_apiary, e.rule, e.override_why, e.note,
       coalesce((SELECT name FROM member WHERE member.id = e.by_person), '') AS by_name
FROM colony_event e
JOIN colony own ON own.id = e.colony_id
LEFT JOIN colony other ON other.id = e.other_colony_id
WHERE e.colony_id = :colony_id OR e.other_colony_id = :colony_id ORDER BY e.happened_on DESC, e.created_at DESC, e.id;

-- name: labels_of_apiary
SELECT id, label FROM colony WHERE apiary_id = :apiary_id AND is_living ORDER BY length(label), label, id;
