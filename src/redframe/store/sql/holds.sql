-- name: held_back
-- What keeps these colonies back on a day: a hold in force, their state, unexplained signs at their visits of two months.
SELECT c.id AS colony_id, c.label, CASE WHEN c.state_since <= :on::date THEN c.state ELSE 'alive' END AS state,
       h.kind AS hold_kind, h.why AS hold_why,
       coalesce((SELECT array_agg(DISTINCT s) FROM visit v CROSS JOIN LATERAL unnest(v.suspicious) AS s
                 WHERE v.colony_id = c.id AND v.state = 'closed' AND v.visited_on > :on::date - 60
                 AND v.visited_on <= :on::date), '{}') AS suspicious,
       (SELECT d.number FROM disease_case d WHERE d.colony_id = c.id AND d.found_on <= :on::date
        AND d.state NOT IN ('not_supported', 'released', 'closed') ORDER BY d.number LIMIT 1) AS case_number,
       s.kind AS standstill, s.number AS standstill_case,
       EXISTS (SELECT FROM foulbrood_exclusion x WHERE x.colony_id = c.id AND x.withdrawn_on IS NULL) AS is_cleared
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
LEFT JOIN LATERAL (SELECT kind, why FROM colony_hold h WHERE h.colony_id = c.id AND h.since <= :on::date
                   AND (h.until IS NULL OR h.until > :on::date) ORDER BY h.kind, h.since DESC LIMIT 1) h ON true
LEFT JOIN LATERAL (SELECT s.kind, d.number FROM standstill s JOIN disease_case d ON d.id = s.case_id
                   WHERE s.since <= :on::date AND (s.until IS NULL OR s.until > :on::date)
                   AND (s.covers = 'colony' AND s.colony_id = c.id OR s.covers IN ('apiary', 'keeper') AND s.apiary_id = c.apiary_id
                        OR s.covers = 'keeper' AND s.keeper_id = a.keeper_id)
                   ORDER BY s.kind, d.number LIMIT 1) s ON true
WHERE c.id = ANY(:ids) ORDER BY length(c.label), c.label;

-- name: colonies_held_in_hive
-- A lost colony holds its hive until another was put in against the hold.
SELECT c.id FROM colony c JOIN colony_state s ON s.name = c.state
WHERE c.hive_id = :hive_id AND (c.is_living OR s.is_lost AND NOT EXISTS (
    SELECT FROM foulbrood_exclusion x WHERE x.colony_id = c.id AND x.withdrawn_on IS NULL) AND NOT EXISTS (
    SELECT FROM colony o JOIN colony_event e ON e.colony_id = o.id
    WHERE o.hive_id = :hive_id AND o.id <> c.id AND e.rule <> '' AND e.happened_on >= c.state_since))
ORDER BY c.id;

-- name: add_hold
INSERT INTO colony_hold (id, association_id, colony_id, kind, since, why, by_person)
VALUES (:id, my_association(), :colony_id, :kind, :since, :why, my_person());

-- name: lift_hold
UPDATE colony_hold SET until = greatest(:until, since), lifted_why = :why WHERE colony_id = :colony_id AND until IS NULL;

-- name: hold_of_colony
SELECT id, colony_id, kind, since, why,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name FROM colony_hold
WHERE colony_id = :colony_id AND until IS NULL;

-- name: hold_on_day
-- The hold that was in force on a day, whether it was lifted since or not.
SELECT id, colony_id, kind, since, why,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name FROM colony_hold
WHERE colony_id = :colony_id AND since <= :day AND (until IS NULL OR until > :day) ORDER BY since DESC LIMIT 1;

-- name: standstills_of_apiaries
-- The standstills that these apiaries lie under on a day, whatever colony is asked of.
SELECT a.id AS apiary_id, a.name AS apiary, s.kind, d.number, d.id AS case_id
FROM apiary a
JOIN standstill s ON s.since <= :on::date AND (s.until IS NULL OR s.until > :on::date)
     AND (s.covers IN ('apiary', 'keeper') AND s.apiary_id = a.id OR s.covers = 'keeper' AND s.keeper_id = a.keeper_id)
JOIN disease_case d ON d.id = s.case_id
WHERE a.id = ANY(:ids) ORDER BY s.kind, d.number;
