-- name: undoable_change
SELECT change, kind FROM undoable_change(:colony_id);

-- name: undo_change
SELECT undo_change(:colony_id, :change);
