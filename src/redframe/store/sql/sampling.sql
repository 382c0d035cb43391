-- name: add_count
INSERT INTO mite_count (id, association_id, colony_id, taken_at, taken_on, shakes, bees_known_by, bees, volume_ml, mass_g,
                        place_of_bees, brood_state, queen_safe, note, by_person)
VALUES (:id, my_association(), :colony_id, :taken_at, :taken_on, :shakes, :bees_known_by, :bees, :volume_ml, :mass_g,
        :place_of_bees, :brood_state, :queen_safe, :note, my_person());

-- name: amend_count
UPDATE mite_count SET taken_at = :taken_at, taken_on = :taken_on, shakes = :shakes, bees_known_by = :bees_known_by,
       bees = :bees, volume_ml = :volume_ml, mass_g = :mass_g, place_of_bees = :place_of_bees, brood_state = :brood_state,
       queen_safe = :queen_safe, note = :note
WHERE id = :id AND version = :version;

-- name: counts_of_colonies
-- Counts with what they say, newest first.
SELECT m.id, m.colony_id, m.taken_at, m.taken_on, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g,
       m.place_of_bees, m.brood_state, m.queen_safe, m.note, coalesce(name_of(m.by_person), '') AS by_name, m.version,
       r.mites, r.bees_mean, r.bees_cv, r.recovery, r.as_counted, r.median, r.low, r.high, r.upper80
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id
WHERE m.colony_id = ANY(:colony_ids) AND m.taken_on >= :since
ORDER BY m.taken_at DESC, m.made_at DESC, m.id;

-- name: count_by_id
SELECT m.id, m.colony_id, m.taken_at, m.taken_on, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g,
       m.place_of_bees, m.brood_state, m.queen_safe, m.note, coalesce(name_of(m.by_person), '') AS by_name, m.version,
       r.mites, r.bees_mean, r.bees_cv, r.recovery, r.as_counted, r.median, r.low, r.high, r.upper80
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id WHERE m.id = :id;

-- name: strip_counts
-- What the season strips of an apiary draw of its counts.
SELECT m.colony_id, m.id, m.taken_on, r.mites, r.bees_mean, r.median, r.low, r.high
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id JOIN colony c ON c.id = m.colony_id
WHERE c.apiary_id = :apiary_id AND m.taken_on >= :since ORDER BY m.colony_id, m.taken_on, m.id;

-- name: strip_visits
SELECT v.colony_id, v.visited_on FROM visit v JOIN colony c ON c.id = v.colony_id
WHERE c.apiary_id = :apiary_id AND v.visited_on >= :since AND v.state = 'closed' ORDER BY v.colony_id, v.visited_on;

-- name: lay_readings
-- `readings` is a JSON list.
INSERT INTO count_reading (count_id, association_id, colony_id, model, mites, bees_mean, bees_cv, recovery, as_counted,
                           median, low, high, upper80)
SELECT r.count_id, my_association(), r.colony_id, :model, r.mites, r.bees_mean, r.bees_cv, r.recovery, r.as_counted,
       r.median, r.low, r.high, r.upper80
FROM jsonb_to_recordset(:readings) AS r (count_id uuid, colony_id uuid, mites integer, bees_mean double precision,
    bees_cv double precision, recovery text, as_counted double precision, median double precision,
    low double precision, high double precision, upper80 double precision)
ON CONFLICT (count_id) DO UPDATE SET model = excluded.model, mites = excluded.mites, bees_mean = excluded.bees_mean,
    bees_cv = excluded.bees_cv, recovery = excluded.recovery, as_counted = excluded.as_counted,
    median = excluded.median, low = excluded.low, high = excluded.high, upper80 = excluded.upper80;

-- name: lift_reading
DELETE FROM count_reading WHERE count_id = :count_id;

-- name: lift_standings
DELETE FROM standing WHERE colony_id = ANY(:colony_ids);

-- name: lay_standings
-- `standings` is a JSON list.
INSERT INTO standing (colony_id, association_id, since, until, level, reason, phase, act_per_100, overdue_from)
SELECT s.colony_id, my_association(), s.since, s.until, s.level, s.reason, s.phase, s.act_per_100, s.overdue_from
FROM jsonb_to_recordset(:standings) AS s (colony_id uuid, since date, until date, level text, reason text, phase text,
                                          act_per_100 double precision, overdue_from date);

-- name: lift_outlooks
DELETE FROM outlook WHERE colony_id = ANY(:colony_ids);

-- name: lay_outlooks
-- `outlooks` is a JSON list.
INSERT INTO outlook (colony_id, association_id, count_id, counted_on, mites, bees_mean, median, low, high, recount_on,
                     policy_version)
SELECT o.colony_id, my_association(), o.count_id, o.counted_on, o.mites, o.bees_mean, o.median, o.low, o.high,
       o.recount_on, :policy_version
FROM jsonb_to_recordset(:outlooks) AS o (colony_id uuid, count_id uuid, counted_on date, mites integer,
    bees_mean double precision, median double precision, low double precision, high double precision, recount_on date);

-- name: lock_colonies
-- Serialises the writes that lay derived rows of a colony anew; in order, so that two of them cannot block one another,
-- and beside whoever lays those of the whole association.
SELECT pg_advisory_xact_lock_shared(hashtextextended(my_association()::text, 1)),
       (SELECT count(pg_advisory_xact_lock(hashtextextended(id::text, 0)))
        FROM (SELECT unnest(:ids::uuid[]) AS id ORDER BY 1) AS t);

-- name: lock_association
-- One lock for the derived rows of all its colonies: a lock each would fill the server's table of locks.
SELECT pg_advisory_xact_lock(hashtextextended(my_association()::text, 1));

-- name: counted_colonies
SELECT o.colony_id AS id, c.state IN ('alive', 'queenless') AS lives FROM outlook o JOIN colony c ON c.id = o.colony_id
ORDER BY o.colony_id;
