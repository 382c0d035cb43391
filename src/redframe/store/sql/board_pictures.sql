-- name: add_board_picture
INSERT INTO board_picture (id, association_id, colony_id, width, height, width_mm, grid_columns, grid_rows, picture, candidates,
                           finder, by_person)
VALUES (:id, my_association(), :colony_id, :width, :height, :width_mm, :grid_columns, :grid_rows, :picture, :candidates,
        :finder, my_person());

-- name: board_picture
SELECT id, colony_id, width, height, width_mm, grid_columns, grid_rows, candidates, finder, marks, counted, count_id,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, created_at FROM board_picture WHERE id = :id;

-- name: board_image
SELECT picture FROM board_picture WHERE id = :id;

-- name: save_marks
UPDATE board_picture SET marks = :marks, counted = :counted, count_id = :count_id
WHERE id = :id AND colony_id = :colony_id AND count_id IS NULL;
