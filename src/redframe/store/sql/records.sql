-- name: accept_write
-- Accepts a device's write once: no row when the id was used before.
INSERT INTO accepted_write (id, association_id, person_id, kind, digest)
VALUES (:id, my_association(), my_person(), :kind, :digest) ON CONFLICT (id) DO NOTHING RETURNING id;

-- name: accepted_digest
SELECT digest FROM accepted_write WHERE id = :id AND kind = :kind;

-- name: history_of
-- The history of one record, newest first.
SELECT seq, act, at,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, reason, previous, current
FROM audit WHERE record_id = :record_id AND table_name = :table_name ORDER BY seq DESC;
