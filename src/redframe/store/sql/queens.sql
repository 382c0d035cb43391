-- name: add_queen
INSERT INTO queen (id, association_id, colony_id, year, mark_seen, status, since, laying_since, release_on)
VALUES (:id, my_association(), :colony_id, :year, :mark_seen, :status, :since, :laying_since, :release_on);

-- name: retire_queen
UPDATE queen SET until = greatest(:until, since) WHERE colony_id = :colony_id AND until IS NULL;

-- name: amend_queen
UPDATE queen SET year = :year, mark_seen = :mark_seen, status = :status, laying_since = :laying_since,
       release_on = :release_on
WHERE colony_id = :colony_id AND until IS NULL AND version = :version;

-- name: queens_of_colony
SELECT id, year, mark_seen, status, since, until, laying_since, release_on, version FROM queen
WHERE colony_id = :colony_id ORDER BY until IS NOT NULL, since DESC, id;
