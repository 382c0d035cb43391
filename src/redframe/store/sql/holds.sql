-- name: held_back
-- Why combs may not leave these colonies: an open hold, a colony that died, unexplained signs at its latest looks.
SELECT c.id AS colony_id, c.label, c.state, h.why AS hold,
       (SELECT array_agg(DISTINCT s) FROM visit v CROSS JOIN LATERAL unnest(v.suspicious) AS s
        WHERE v.colony_id = c.id AND v.state = 'closed' AND v.visited_on > :on::date - 60) AS suspicious
FROM colony c LEFT JOIN colony_hold h ON h.colony_id = c.id AND h.until IS NULL
WHERE c.id = ANY(:ids);

-- name: add_hold
INSERT INTO colony_hold (id, association_id, colony_id, since, why, by_person)
VALUES (:id, my_association(), :colony_id, :since, :why, my_person());

-- name: lift_hold
UPDATE colony_hold SET until = :until, lifted_why = :why WHERE colony_id = :colony_id AND until IS NULL;

-- name: hold_of_colony
SELECT id, colony_id, since, why, coalesce(name_of(by_person), '') AS by_name FROM colony_hold
WHERE colony_id = :colony_id AND until IS NULL;
