-- name: boards_lying
SELECT id, colony_id, placed_at, cleaned, greased,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, version
FROM insert_board WHERE colony_id = ANY(:colony_ids) AND removed_at IS NULL ORDER BY placed_at, id;

-- name: place_board
INSERT INTO insert_board (id, association_id, colony_id, placed_at, cleaned, greased, by_person)
VALUES (:id, my_association(), :colony_id, :placed_at, :cleaned, :greased, my_person())
ON CONFLICT (colony_id) WHERE removed_at IS NULL DO NOTHING;

-- name: remove_board
UPDATE insert_board SET removed_at = :removed_at, count_id = :count_id
WHERE id = :id AND removed_at IS NULL AND placed_at <= :removed_at;
