-- name: add_movement
INSERT INTO movement (id, association_id, colony_id, way, kind, earliest, latest, other_colony_id, elsewhere, node, is_seen,
                      is_disinfected, note, by_person)
VALUES (:id, my_association(), :colony_id, :way, :kind, :earliest, :latest, :other_colony_id, :elsewhere, :node, :is_seen,
        :is_disinfected, :note, my_person());

-- name: movement_is_there
SELECT id FROM movement WHERE id = :id;

-- name: withdraw_movement
UPDATE movement SET withdrawn_why = :why WHERE id = :id AND withdrawn_why = '';

-- name: contacts_of_colony
-- What came to a colony and went from it, latest first, each colony under its label of that day.
SELECT l.id, l.earliest, l.latest, l.from_colony, l.to_colony, label_on(l.from_colony, l.latest) AS from_label,
       label_on(l.to_colony, l.latest) AS to_label, f.name AS from_apiary, t.name AS to_apiary, l.kind, l.certainty,
       l.is_disinfected, l.elsewhere, l.frame_id,
       -- What somebody noted at a hive that one does not see is not for one's eyes.
       CASE WHEN (l.from_colony IS NULL OR f.id IS NOT NULL) AND (l.to_colony IS NULL OR t.id IS NOT NULL) THEN l.note ELSE '' END
           AS note,
       EXISTS (SELECT FROM movement m WHERE m.id::text = l.id AND m.colony_id = :colony_id) AS is_by_hand
FROM contact_log l LEFT JOIN apiary f ON f.id = apiary_on(l.from_colony, l.latest)
LEFT JOIN apiary t ON t.id = apiary_on(l.to_colony, l.latest)
WHERE l.from_colony = :colony_id OR l.to_colony = :colony_id
ORDER BY l.latest DESC, l.created_at DESC, l.id LIMIT :most;

-- name: stays_of_colony
-- Where a colony stood, from when, under which label; the latest first.
SELECT a.id AS apiary_id, a.name AS apiary, s.since, s.until, label_on(:colony_id, coalesce(s.until - 1, :today)) AS label
FROM (SELECT e.previous_apiary AS apiary_id,
             coalesce(lag(e.happened_on) OVER in_time, (SELECT min(b.happened_on) FROM colony_event b WHERE b.colony_id = :colony_id))
                 AS since, e.happened_on AS until
      FROM colony_event e WHERE e.colony_id = :colony_id AND e.kind = 'moved' AND e.previous_apiary IS NOT NULL
      WINDOW in_time AS (ORDER BY e.happened_on, e.created_at)
      UNION ALL
      SELECT c.apiary_id,
             coalesce((SELECT max(e.happened_on) FROM colony_event e
                       WHERE e.colony_id = c.id AND e.kind = 'moved' AND e.previous_apiary IS NOT NULL),
                      (SELECT min(e.happened_on) FROM colony_event e WHERE e.colony_id = c.id), c.state_since),
             CASE WHEN c.is_living THEN NULL ELSE c.state_since END
      FROM colony c WHERE c.id = :colony_id) s
JOIN apiary a ON a.id = s.apiary_id ORDER BY s.since DESC, s.until DESC NULLS FIRST;

-- name: comb_of
-- A comb and the colony that it hangs in; two colonies in one body are one hive here.
SELECT f.id, f.kind, f.frame_format, f.comb_year, f.away, a.name AS apiary, f.slot, c.id AS colony_id, c.label
FROM frame f JOIN apiary a ON a.id = f.apiary_id LEFT JOIN hive_box b ON b.id = f.box_id
LEFT JOIN LATERAL (SELECT id, label FROM colony WHERE hive_id = b.hive_id AND is_living ORDER BY label, id LIMIT 1) c ON true
WHERE f.id = :frame_id;

-- name: seen_on_comb
-- What was seen of a comb at visits, the latest first.
SELECT v.id AS visit_id, v.visited_on, v.colony_id, label_on(v.colony_id, v.visited_on) AS label, r.record
FROM visit_frame r JOIN visit v ON v.id = r.visit_id
WHERE r.frame_id = :frame_id AND v.state = 'closed' ORDER BY v.visited_on DESC, v.created_at DESC LIMIT :most;

-- name: moves_of_comb
-- Where a comb has been, the latest first, each colony under its label of that day.
SELECT m.id, m.moved_on, m.from_colony, m.to_colony, label_on(m.from_colony, m.moved_on) AS from_label,
       label_on(m.to_colony, m.moved_on) AS to_label, f.name AS from_apiary, t.name AS to_apiary, m.from_away, m.to_away,
       m.from_slot, m.to_slot, m.note, coalesce((SELECT name FROM member WHERE member.id = m.by_person), '') AS by_name
FROM frame_move m LEFT JOIN apiary f ON f.id = m.from_apiary LEFT JOIN apiary t ON t.id = m.to_apiary
WHERE m.frame_id = :frame_id ORDER BY m.moved_on DESC, m.created_at DESC LIMIT :most;

-- name: queen_of
SELECT q.id, q.colony_id, c.label, q.year, q.mark_seen, q.status, q.since, q.until
FROM queen q JOIN colony c ON c.id = q.colony_id WHERE q.id = :queen_id;
