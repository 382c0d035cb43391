-- name: accept_writes
-- Accepts a device's writes once: the ids that were not used before.
INSERT INTO accepted_write (id, association_id, person_id, kind, digest)
SELECT w.id, my_association(), my_person(), :kind, w.digest FROM unnest(:ids::uuid[], :digests::bytea[]) AS w (id, digest)
ON CONFLICT (id) DO NOTHING RETURNING id;

-- name: accepted_digests
SELECT id, digest FROM accepted_write WHERE id = ANY(:ids) AND kind = :kind;

-- name: history_of
-- The history of one record, newest first.
SELECT seq, act, at,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, reason, previous, current
FROM audit WHERE record_id = :record_id AND table_name = :table_name ORDER BY seq DESC;
