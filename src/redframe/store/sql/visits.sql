-- name: visits_of_colonies
SELECT id, colony_id, visited_on, closed_at, strength, strength_unit, capped_brood, eggs_seen, queen_seen, supers_on, fed, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM visit WHERE colony_id = ANY(:colony_ids) AND visited_on >= :since AND state = 'closed' ORDER BY visited_on DESC, created_at DESC, id;

-- name: food_of_colonies
-- What visits and acts of courses since a day say of food: stores as they were judged, feed that was given.
SELECT colony_id, visited_on, stores_kg, after ->> 'stores_by' AS stores_by, after ->> 'feed' AS feed,
       (after ->> 'feed_amount')::double precision AS feed_amount, after ->> 'feeder' AS feeder,
       coalesce(after -> 'stores_are', '[]') AS stores_are
FROM visit WHERE colony_id = ANY(:colony_ids) AND visited_on >= :since AND state = 'closed'
AND (stores_kg IS NOT NULL OR after ? 'feed' OR after ? 'feeder')
UNION ALL
SELECT colony_id, done_on, NULL, NULL, details ->> 'feed', (details ->> 'feed_amount')::double precision, 'put_on', '[]'
FROM hive_act WHERE colony_id = ANY(:colony_ids) AND done_on >= :since AND fed AND withdrawn_why = ''
ORDER BY colony_id, visited_on;

-- name: strip_visits
SELECT v.colony_id, v.visited_on FROM visit v JOIN colony c ON c.id = v.colony_id
WHERE c.apiary_id = :apiary_id AND v.visited_on >= :since AND v.state = 'closed' ORDER BY v.colony_id, v.visited_on;

-- name: queens_seen
-- Colonies of an apiary whose queen was seen on a day, at a visit that is closed or still going on.
SELECT DISTINCT v.colony_id FROM visit v JOIN colony c ON c.id = v.colony_id AND c.apiary_id = :apiary_id
WHERE v.visited_on = :on_day AND v.state <> 'dropped' AND (v.queen_seen OR v.after ->> 'queen' = 'seen'
      OR EXISTS (SELECT FROM visit_frame f WHERE f.visit_id = v.id AND (f.record ->> 'queen')::boolean));

-- name: open_visit
INSERT INTO visit (id, association_id, colony_id, visited_on, state, opened_at, by_person)
VALUES (:id, my_association(), :colony_id, :visited_on, 'draft', :opened_at, my_person());

-- name: draft_of_colony
SELECT id FROM visit WHERE colony_id = :colony_id AND state = 'draft';

-- name: visit_by_id
SELECT id, colony_id, visited_on, state, opened_at, closed_at, before, before_version, after, after_version, version,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, state = 'closed' AND may_reopen(id) AS may_reopen
FROM visit WHERE id = :id;

-- name: lock_visit
SELECT id, colony_id, visited_on, state, opened_at, closed_at, before, before_version, after, after_version, version,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, state = 'closed' AND may_reopen(id) AS may_reopen
FROM visit WHERE id = :id FOR UPDATE;

-- name: save_before
UPDATE visit SET before = :content, before_version = before_version + 1 WHERE id = :id AND before_version = :version;

-- name: save_after
UPDATE visit SET after = :content, after_version = after_version + 1 WHERE id = :id AND after_version = :version;

-- name: places_of_visits
SELECT id, place::text AS place FROM visit WHERE id = ANY(:visit_ids) AND place IS NOT NULL;

-- name: close_visit
UPDATE visit SET state = 'closed', closed_at = coalesce(closed_at, :closed_at), place = coalesce(place, :place),
       strength = :strength, strength_unit = :strength_unit, capped_brood = :capped_brood, eggs_seen = :eggs_seen,
       queen_seen = :queen_seen, supers_on = :supers_on, fed = :fed, note = :note, frames_of_bees = :frames_of_bees,
       seams_of_bees = :seams_of_bees, frames_of_brood = :frames_of_brood, capped_cells = :capped_cells,
       stores_kg = :stores_kg, temper = :temper, pattern_empty_pct = :pattern_empty_pct, suspicious = :suspicious,
       next_visit = :next_visit
WHERE id = :id;

-- name: reopen_visit
UPDATE visit SET state = 'draft', closed_at = NULL, place = NULL WHERE id = :id AND state = 'closed' AND may_reopen(id);

-- name: add_closed_visit
INSERT INTO visit (id, association_id, colony_id, visited_on, state, closed_at, after, after_version, place, strength,
                   strength_unit, capped_brood, eggs_seen, queen_seen, supers_on, fed, note, frames_of_bees, seams_of_bees,
                   frames_of_brood, capped_cells, stores_kg, temper, pattern_empty_pct, suspicious, next_visit, by_person)
VALUES (:id, my_association(), :colony_id, :visited_on, 'closed', :closed_at, :after, 1, :place, :strength,
        :strength_unit, :capped_brood, :eggs_seen, :queen_seen, :supers_on, :fed, :note, :frames_of_bees, :seams_of_bees,
        :frames_of_brood, :capped_cells, :stores_kg, :temper, :pattern_empty_pct, :suspicious, :next_visit, my_person());

-- name: next_visit_set
-- The day that the last closed visit of a colony set for the next one.
SELECT visited_on, next_visit, coalesce(after ->> 'next_why', '') AS why FROM visit
WHERE colony_id = :colony_id AND state = 'closed' ORDER BY visited_on DESC, created_at DESC LIMIT 1;

-- name: drop_visit
UPDATE visit SET state = 'dropped', closed_at = :closed_at WHERE id = :id AND state = 'draft';

-- name: frames_of_visits
SELECT visit_id, box_id, slot, frame_id, record, version,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, saved_at
FROM visit_frame WHERE visit_id = ANY(:visit_ids) ORDER BY visit_id, box_id, slot;

-- name: add_visit_frame
INSERT INTO visit_frame (visit_id, box_id, slot, association_id, colony_id, frame_id, record, by_person)
VALUES (:visit_id, :box_id, :slot, my_association(), :colony_id, :frame_id, :record, my_person())
ON CONFLICT DO NOTHING;

-- name: amend_visit_frame
UPDATE visit_frame SET record = :record, frame_id = :frame_id, by_person = my_person()
WHERE visit_id = :visit_id AND box_id = :box_id AND slot = :slot AND version = :version;

-- name: visits_to_compare
-- Closed visits of a colony before a day or opened earlier that day, newest first, and how many frames each looked at.
SELECT v.id, v.visited_on, (SELECT count(*) FROM visit_frame f WHERE f.visit_id = v.id) AS frames, v.frames_of_bees,
       v.seams_of_bees, v.frames_of_brood, v.stores_kg, v.capped_cells, v.temper, v.pattern_empty_pct
FROM visit v WHERE v.colony_id = :colony_id AND v.state = 'closed' AND v.visited_on <= :on AND v.id <> :id
ORDER BY v.visited_on DESC, v.created_at DESC, v.id LIMIT 40;

-- name: apiary_at_visits
-- The latest closed visit of each other living colony of the apiary in the weeks before a day.
SELECT DISTINCT ON (v.colony_id) v.colony_id, v.visited_on, v.frames_of_bees, v.seams_of_bees,
       v.frames_of_brood, v.capped_cells, v.stores_kg
FROM visit v JOIN colony c ON c.id = v.colony_id
WHERE c.apiary_id = :apiary_id AND c.id <> :colony_id AND c.is_living AND v.state = 'closed'
  AND v.visited_on BETWEEN :since AND :on
ORDER BY v.colony_id, v.visited_on DESC, v.created_at DESC;

-- name: round_of_apiary
-- The living colonies of an apiary in the order of a round: suspects last, so that nothing is carried on from them.
SELECT c.id, c.label, d.id AS draft, l.visited_on AS last_visit, l.next_visit, h.why AS hold, coalesce(s.signs, '{}') AS suspicious
FROM colony c
LEFT JOIN visit d ON d.colony_id = c.id AND d.state = 'draft'
LEFT JOIN colony_hold h ON h.colony_id = c.id AND h.until IS NULL
LEFT JOIN LATERAL (SELECT visited_on, next_visit FROM visit WHERE colony_id = c.id AND state = 'closed'
                   ORDER BY visited_on DESC, created_at DESC LIMIT 1) l ON true
LEFT JOIN LATERAL (SELECT array_agg(DISTINCT one) AS signs FROM visit v CROSS JOIN LATERAL unnest(v.suspicious) AS one
                   WHERE v.colony_id = c.id AND v.state = 'closed' AND v.visited_on > :on::date - 60) s ON true
WHERE c.apiary_id = :apiary_id AND c.is_living
ORDER BY (h.id IS NOT NULL OR s.signs IS NOT NULL), length(c.label), c.label, c.id;
