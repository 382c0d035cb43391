-- name: frame_formats
SELECT id, name, width_mm, height_mm FROM frame_format ORDER BY id;

-- name: colonies_of_apiary
-- Living colonies first, each with its queen, its latest strength, its latest count and its standing on a day.
-- Looked up colony by colony (LIMIT keeps the planner from hashing whole tables under row-level security).
SELECT c.id, c.apiary_id, c.label, c.state, c.state_since, c.hive_id, c.note, c.version,
       q.id AS queen_id, q.year AS queen_year, q.mark_seen, q.status AS queen_status, q.since AS queen_since,
       q.laying_since, q.release_on, coalesce(q.version, 0) AS queen_version,
       v.visited_on AS strength_on, v.strength, v.strength_unit,
       coalesce(s.level, 'unknown') AS level, coalesce(s.reason, 'never_counted') AS level_reason, s.since AS level_since,
       s.phase, s.act_at, s.school, s.overdue_from,
       o.count_id, o.counted_on, o.scale, o.recovery, o.mites, o.bees_mean, o.median, o.low, o.high, o.recount_on,
       coalesce((SELECT m.on_purpose FROM mite_count m WHERE m.id = o.count_id), false) AS on_purpose
FROM colony c
LEFT JOIN LATERAL (SELECT * FROM queen WHERE colony_id = c.id AND until IS NULL LIMIT 1) q ON true
LEFT JOIN LATERAL (SELECT visited_on, strength, strength_unit FROM visit WHERE colony_id = c.id AND state = 'closed' AND strength IS NOT NULL
                   ORDER BY visited_on DESC, made_at DESC LIMIT 1) v ON true
LEFT JOIN LATERAL (SELECT * FROM standing WHERE colony_id = c.id AND since <= :today
                   AND (until IS NULL OR until > :today) LIMIT 1) s ON true
LEFT JOIN LATERAL (SELECT * FROM outlook WHERE colony_id = c.id LIMIT 1) o ON true
WHERE c.apiary_id = :apiary_id OR c.id = :colony_id
ORDER BY c.state NOT IN ('alive', 'queenless'), length(c.label), c.label, c.id;

-- name: colony
SELECT id, apiary_id, label, state, state_since, hive_id, note, version FROM colony WHERE id = :id;

-- name: colonies_by_id
SELECT id, apiary_id, label, state, state_since, hive_id, note, version FROM colony WHERE id = ANY(:ids) ORDER BY label, id;

-- name: colony_for_update
SELECT id, apiary_id, label, state, state_since, hive_id, note, version FROM colony WHERE id = :id FOR UPDATE;

-- name: add_hive
INSERT INTO hive (id, association_id, apiary_id, hive_type) VALUES (:id, my_association(), :apiary_id, :hive_type);

-- name: lay_hive_boxes
-- `boxes` is a JSON list: boxes that stay name their id and may change places; those not named end; the others are new.
WITH wanted AS (
    SELECT * FROM jsonb_to_recordset(:boxes) AS n(id uuid, "position" integer, purpose text, frame_format text, frames integer)
), ended AS (
    UPDATE hive_box b SET until = greatest(:on, since)
    WHERE hive_id = :hive_id AND until IS NULL AND NOT EXISTS (SELECT FROM wanted n WHERE n.id = b.id)
), shifted AS (
    UPDATE hive_box b SET position = n.position FROM wanted n
    WHERE b.id = n.id AND b.hive_id = :hive_id AND b.until IS NULL AND b.position <> n.position
)
INSERT INTO hive_box (hive_id, association_id, position, purpose, frame_format, frames, since)
SELECT :hive_id, my_association(), n.position, n.purpose, n.frame_format, n.frames, :on FROM wanted n WHERE n.id IS NULL;

-- name: amend_hive
UPDATE hive SET hive_type = :hive_type, floor = :floor, numbered_from = :numbered_from, divided_after = :divided_after,
       laid_at = clock_timestamp()
WHERE id = :id AND version = :version;

-- name: set_hive_side
UPDATE colony SET hive_side = CASE WHEN :side::text IS NULL THEN NULL
                                   WHEN (id = :colony_id) = (:side = 'left') THEN 'left' ELSE 'right' END
WHERE hive_id = :hive_id AND state IN ('alive', 'queenless');

-- name: move_hive
WITH combs AS (
    UPDATE frame SET apiary_id = :apiary_id FROM hive_box b WHERE b.id = frame.box_id AND b.hive_id = :id AND b.until IS NULL
)
UPDATE hive SET apiary_id = :apiary_id WHERE id = :id;

-- name: hives_of_apiary
SELECT h.id, h.hive_type, h.floor, h.numbered_from, h.divided_after, h.version, b.id AS box_id, b.position, b.purpose,
       b.frame_format, b.frames, b.since,
       (SELECT array_agg(c.label ORDER BY c.label) FROM colony c WHERE c.hive_id = h.id
        AND c.state IN ('alive', 'queenless')) AS labels,
       (SELECT min(c.label) FROM colony c WHERE c.hive_id = h.id AND c.hive_side = 'left'
        AND c.state IN ('alive', 'queenless')) AS left_label
FROM hive h LEFT JOIN hive_box b ON b.hive_id = h.id AND b.until IS NULL
WHERE h.apiary_id = :apiary_id ORDER BY h.id, b.position;

-- name: add_colony
INSERT INTO colony (id, association_id, apiary_id, hive_id, label, state, state_since, note)
VALUES (:id, my_association(), :apiary_id, :hive_id, :label, 'alive', :since, :note);

-- name: amend_colony
UPDATE colony SET label = :label, state = :state, state_since = :state_since, apiary_id = :apiary_id, hive_id = :hive_id,
       note = :note
WHERE id = :id AND version = :version;

-- name: add_queen
INSERT INTO queen (id, association_id, colony_id, year, mark_seen, status, since, laying_since, release_on)
VALUES (:id, my_association(), :colony_id, :year, :mark_seen, :status, :since, :laying_since, :release_on);

-- name: retire_queen
UPDATE queen SET until = greatest(:until, since) WHERE colony_id = :colony_id AND until IS NULL;

-- name: amend_queen
UPDATE queen SET year = :year, mark_seen = :mark_seen, status = :status, laying_since = :laying_since,
       release_on = :release_on
WHERE colony_id = :colony_id AND until IS NULL AND version = :version;

-- name: queens_of_colony
SELECT id, year, mark_seen, status, since, until, laying_since, release_on, version FROM queen
WHERE colony_id = :colony_id ORDER BY until IS NOT NULL, since DESC, id;

-- name: add_colony_event
INSERT INTO colony_event (id, association_id, colony_id, kind, happened_on, other_colony_id, former, present, note, by_person)
VALUES (:id, my_association(), :colony_id, :kind, :happened_on, :other_colony_id, :former, :present, :note, my_person());

-- name: events_of_colony
-- Lineage of a colony, both ways: what happened to it, and what others became of it or went into it.
SELECT e.id, e.colony_id, e.kind, e.happened_on, e.other_colony_id, other.label AS other_label, own.label AS own_label,
       e.former, e.present, e.note, coalesce(name_of(e.by_person), '') AS by_name
FROM colony_event e
JOIN colony own ON own.id = e.colony_id
LEFT JOIN colony other ON other.id = e.other_colony_id
WHERE e.colony_id = :colony_id OR e.other_colony_id = :colony_id ORDER BY e.happened_on DESC, e.made_at DESC, e.id;

-- name: add_visit
INSERT INTO visit (id, association_id, colony_id, visited_on, strength, strength_unit, capped_brood, eggs_seen, queen_seen,
                   supers_on, fed, note, by_person)
VALUES (:id, my_association(), :colony_id, :visited_on, :strength, :strength_unit, :capped_brood, :eggs_seen, :queen_seen,
        :supers_on, :fed, :note, my_person());

-- name: visits_of_colonies
SELECT id, colony_id, visited_on, strength, strength_unit, capped_brood, eggs_seen, queen_seen, supers_on, fed, note,
       coalesce(name_of(by_person), '') AS by_name, version
FROM visit WHERE colony_id = ANY(:colony_ids) AND visited_on >= :since AND state = 'closed' ORDER BY visited_on DESC, made_at DESC, id;
