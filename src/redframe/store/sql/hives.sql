-- name: frame_formats
SELECT id, name, width_mm, height_mm FROM frame_format ORDER BY id;

-- name: add_hive
INSERT INTO hive (id, association_id, apiary_id, hive_type) VALUES (:id, my_association(), :apiary_id, :hive_type);

-- name: replace_hive_boxes
-- `boxes` is a JSON list: boxes that stay name their id and may change places; those not named end; the others are new.
WITH wanted AS (
    SELECT * FROM jsonb_to_recordset(:boxes) AS n(id uuid, "position" integer, purpose text, frame_format text, frames integer)
), ended AS (
    UPDATE hive_box b SET until = greatest(:on, since)
    WHERE hive_id = :hive_id AND until IS NULL AND NOT EXISTS (SELECT FROM wanted n WHERE n.id = b.id)
), shifted AS (
    UPDATE hive_box b SET position = n.position FROM wanted n
    WHERE b.id = n.id AND b.hive_id = :hive_id AND b.until IS NULL AND b.position <> n.position
)
INSERT INTO hive_box (id, hive_id, association_id, position, purpose, frame_format, frames, since)
SELECT coalesce(n.id, gen_random_uuid()), :hive_id, my_association(), n.position, n.purpose, n.frame_format, n.frames, :on
FROM wanted n WHERE NOT EXISTS (SELECT FROM hive_box b WHERE b.id = n.id AND b.hive_id = :hive_id);

-- name: amend_hive
UPDATE hive SET hive_type = :hive_type, floor = :floor, numbered_from = :numbered_from, divided_after = :divided_after,
       boxes_changed_at = clock_timestamp()
WHERE id = :id AND version = :version;

-- name: set_hive_side
UPDATE colony SET hive_side = CASE WHEN :side::text IS NULL THEN NULL
                                   WHEN (id = :colony_id) = (:side = 'left') THEN 'left' ELSE 'right' END
WHERE hive_id = :hive_id AND is_living;

-- name: remove_divider
WITH sides AS (UPDATE colony SET hive_side = NULL WHERE hive_id = :hive_id AND hive_side IS NOT NULL)
UPDATE hive SET divided_after = NULL WHERE id = :hive_id AND divided_after IS NOT NULL;

-- name: move_hive
WITH combs AS (
    UPDATE frame SET apiary_id = :apiary_id FROM hive_box b WHERE b.id = frame.box_id AND b.hive_id = :id AND b.until IS NULL
)
UPDATE hive SET apiary_id = :apiary_id WHERE id = :id;

-- name: hives_of_apiary
SELECT h.id, h.hive_type, h.floor, h.numbered_from, h.divided_after, h.version, b.id AS box_id, b.position, b.purpose,
       b.frame_format, b.frames, b.since,
       (SELECT array_agg(c.label ORDER BY c.label) FROM colony c WHERE c.hive_id = h.id
        AND c.is_living) AS labels,
       (SELECT min(c.label) FROM colony c WHERE c.hive_id = h.id AND c.hive_side = 'left'
        AND c.is_living) AS left_label
FROM hive h LEFT JOIN hive_box b ON b.hive_id = h.id AND b.until IS NULL
WHERE h.apiary_id = :apiary_id ORDER BY h.id, b.position;

-- name: brood_boxes
-- Of each of these colonies, how many brood boxes its hive has.
SELECT c.id AS colony_id, count(*) AS boxes FROM colony c
JOIN hive_box b ON b.hive_id = c.hive_id AND b.purpose = 'brood' AND b.until IS NULL
WHERE c.id = ANY(:colony_ids) GROUP BY c.id;

-- name: super_boxes
-- Supers that stand on the hives of colonies, or were taken off since a day.
SELECT c.id AS colony_id, b.since, b.until FROM colony c JOIN hive_box b ON b.hive_id = c.hive_id AND b.purpose = 'super'
WHERE c.id = ANY(:colony_ids) AND (b.until IS NULL OR b.until >= :since);

-- name: boxes_of_hive
-- The boxes that stand, from the floor up; those that stood on a day where one is named.
SELECT id, position, purpose, frame_format, frames, since FROM hive_box
WHERE hive_id = :hive_id AND CASE WHEN :on::date IS NULL THEN until IS NULL ELSE since <= :on AND (until IS NULL OR until > :on) END
ORDER BY position, since;

-- name: boxes_by_id
SELECT id, position, purpose, frame_format, frames, since FROM hive_box WHERE id = ANY(:ids) ORDER BY position, since;

-- name: hive_by_id
SELECT id, apiary_id, hive_type, floor, numbered_from, divided_after, version FROM hive WHERE id = :id;

-- name: colonies_of_hive
-- The living; where none lives, those that lived there last.
SELECT c.id, c.label, c.hive_side FROM colony c
WHERE c.hive_id = :hive_id AND (c.is_living OR NOT EXISTS (SELECT FROM colony o WHERE o.hive_id = :hive_id AND o.is_living))
ORDER BY c.is_living DESC, CASE WHEN c.is_living THEN NULL ELSE c.state_since END DESC, c.label;
