-- name: add_case_photo
INSERT INTO case_photo (id, association_id, case_id, caption, width, height, picture, thumbnail, by_person)
VALUES (:id, my_association(), :case_id, :caption, :width, :height, :picture, :thumbnail, my_person());

-- name: photos_of_case
SELECT id, caption, width, height, created_at, coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM case_photo WHERE case_id = :case_id ORDER BY created_at, id;

-- name: case_photo_small
SELECT thumbnail FROM case_photo WHERE id = :id;

-- name: case_photo_whole
SELECT picture FROM case_photo WHERE id = :id;
