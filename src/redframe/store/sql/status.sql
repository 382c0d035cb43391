-- name: replace_statuses
-- `statuses` is a JSON list: those of `colony_ids` from now on. What stays as it is is not written: every row written
-- renews what is so now of its colony.
WITH fresh AS MATERIALIZED (
    SELECT s.colony_id, my_association() AS association_id, s.since, s.until, s.level, s.reason, s.phase, s.act_at,
           s.overdue_from, s.scheme
    FROM jsonb_to_recordset(:statuses) AS s (colony_id uuid, since date, until date, level text, reason text, phase text,
                                             act_at double precision, overdue_from date, scheme text)
), gone AS (
    DELETE FROM colony_status o WHERE o.colony_id = ANY(:colony_ids)
    AND NOT EXISTS (SELECT FROM fresh f WHERE f.colony_id = o.colony_id AND f.since = o.since)
)
INSERT INTO colony_status AS o (colony_id, association_id, since, until, level, reason, phase, act_at, overdue_from, scheme)
SELECT colony_id, association_id, since, until, level, reason, phase, act_at, overdue_from, scheme FROM fresh
ON CONFLICT (colony_id, since) DO UPDATE SET until = excluded.until, level = excluded.level, reason = excluded.reason,
    phase = excluded.phase, act_at = excluded.act_at, overdue_from = excluded.overdue_from, scheme = excluded.scheme
WHERE (o.until, o.level, o.reason, o.phase, o.act_at, o.overdue_from, o.scheme) IS DISTINCT FROM
      (excluded.until, excluded.level, excluded.reason, excluded.phase, excluded.act_at, excluded.overdue_from, excluded.scheme);

-- name: replace_outlooks
-- `outlooks` is a JSON list: those of `colony_ids` from now on.
WITH fresh AS MATERIALIZED (
    SELECT o.colony_id, my_association() AS association_id, o.count_id, o.counted_on, o.scale, o.recovery, o.mites,
           o.bees_mean, o.median, o.low, o.high, o.recount_on, :policy_version::integer AS policy_version
    FROM jsonb_to_recordset(:outlooks) AS o (colony_id uuid, count_id uuid, counted_on date, scale text, recovery text,
        mites integer, bees_mean double precision, median double precision, low double precision, high double precision,
        recount_on date)
), gone AS (
    DELETE FROM outlook o WHERE o.colony_id = ANY(:colony_ids)
    AND NOT EXISTS (SELECT FROM fresh f WHERE f.colony_id = o.colony_id)
)
INSERT INTO outlook AS o (colony_id, association_id, count_id, counted_on, scale, recovery, mites, bees_mean, median, low,
                          high, recount_on, policy_version)
SELECT colony_id, association_id, count_id, counted_on, scale, recovery, mites, bees_mean, median, low, high, recount_on,
       policy_version FROM fresh
ON CONFLICT (colony_id) DO UPDATE SET count_id = excluded.count_id, counted_on = excluded.counted_on,
    scale = excluded.scale, recovery = excluded.recovery, mites = excluded.mites, bees_mean = excluded.bees_mean,
    median = excluded.median, low = excluded.low, high = excluded.high, recount_on = excluded.recount_on,
    policy_version = excluded.policy_version;

-- name: lock_colonies
-- Serialises the writes that replace derived rows of a colony; in order, so that two of them cannot block one another,
-- and beside whoever lays those of the whole association.
SELECT pg_advisory_xact_lock_shared(hashtextextended(my_association()::text, 1)),
       (SELECT count(pg_advisory_xact_lock(hashtextextended(id::text, 0)))
        FROM (SELECT unnest(:ids::uuid[]) AS id ORDER BY 1) AS t);

-- name: lock_association
-- One lock for the derived rows of all its colonies: a lock each would fill the server's table of locks.
SELECT pg_advisory_xact_lock(hashtextextended(my_association()::text, 1));

-- name: levels_on
SELECT colony_id, level FROM colony_status WHERE since <= :day AND (until IS NULL OR until > :day);

-- name: counted_colonies
-- Colonies with a count, of one apiary where one is named.
SELECT c.id, c.is_living FROM colony c
WHERE (:apiary_id::uuid IS NULL OR c.apiary_id = :apiary_id) AND EXISTS (SELECT FROM mite_count m WHERE m.colony_id = c.id)
ORDER BY c.id;
