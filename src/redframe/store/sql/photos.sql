-- name: add_photo
INSERT INTO photo (id, association_id, colony_id, visit_id, box_id, slot, sign, caption, width, height, picture, thumbnail,
                   by_person)
VALUES (:id, my_association(), :colony_id, :visit_id, :box_id, :slot, :sign, :caption, :width, :height, :picture,
        :thumbnail, my_person());

-- name: photos_of_visit
SELECT id, visit_id, box_id, slot, sign, caption, width, height, created_at,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM photo WHERE visit_id = :visit_id ORDER BY created_at, id;

-- name: thumbnail
SELECT thumbnail FROM photo WHERE id = :id;

-- name: picture
SELECT picture FROM photo WHERE id = :id;
