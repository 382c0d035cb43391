-- name: delete_statuses
DELETE FROM colony_status WHERE colony_id = ANY(:colony_ids);

-- name: insert_statuses
-- `statuses` is a JSON list.
INSERT INTO colony_status (colony_id, association_id, since, until, level, reason, phase, act_at, overdue_from, scheme)
SELECT s.colony_id, my_association(), s.since, s.until, s.level, s.reason, s.phase, s.act_at, s.overdue_from, s.scheme
FROM jsonb_to_recordset(:statuses) AS s (colony_id uuid, since date, until date, level text, reason text, phase text,
                                          act_at double precision, overdue_from date, scheme text);

-- name: delete_outlooks
DELETE FROM outlook WHERE colony_id = ANY(:colony_ids);

-- name: insert_outlooks
-- `outlooks` is a JSON list.
INSERT INTO outlook (colony_id, association_id, count_id, counted_on, scale, recovery, mites, bees_mean, median, low, high,
                     recount_on, policy_version)
SELECT o.colony_id, my_association(), o.count_id, o.counted_on, o.scale, o.recovery, o.mites, o.bees_mean, o.median, o.low, o.high,
       o.recount_on, :policy_version
FROM jsonb_to_recordset(:outlooks) AS o (colony_id uuid, count_id uuid, counted_on date, scale text, recovery text, mites integer,
    bees_mean double precision, median double precision, low double precision, high double precision, recount_on date);

-- name: lock_colonies
-- Serialises the writes that replace derived rows of a colony; in order, so that two of them cannot block one another,
-- and beside whoever lays those of the whole association.
SELECT pg_advisory_xact_lock_shared(hashtextextended(my_association()::text, 1)),
       (SELECT count(pg_advisory_xact_lock(hashtextextended(id::text, 0)))
        FROM (SELECT unnest(:ids::uuid[]) AS id ORDER BY 1) AS t);

-- name: lock_association
-- One lock for the derived rows of all its colonies: a lock each would fill the server's table of locks.
SELECT pg_advisory_xact_lock(hashtextextended(my_association()::text, 1));

-- name: counted_colonies
-- Colonies with a count, of one apiary where one is named.
SELECT c.id, c.is_living FROM colony c
WHERE (:apiary_id::uuid IS NULL OR c.apiary_id = :apiary_id) AND EXISTS (SELECT FROM mite_count m WHERE m.colony_id = c.id)
ORDER BY c.id;
