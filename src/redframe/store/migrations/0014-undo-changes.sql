-- What was changed of a colony, its queen, its hive and its frames can be undone as one act by whoever changed it: the
-- history of one transaction is what is taken back. Boxes, events and moves are written into the history for it.

ALTER TABLE audit ADD COLUMN xact xid8 NOT NULL DEFAULT pg_current_xact_id();
CREATE INDEX audit_by_person ON audit (by_person, at);

ALTER TABLE hive_box ADD COLUMN version integer NOT NULL DEFAULT 1;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON hive_box FOR EACH ROW EXECUTE FUNCTION keep_history('');
CREATE TRIGGER history BEFORE INSERT ON colony_event FOR EACH ROW EXECUTE FUNCTION keep_history('');
CREATE TRIGGER history BEFORE INSERT ON frame_move FOR EACH ROW EXECUTE FUNCTION keep_history('');

-- The person's latest change of a colony while it may be undone: its transaction, what it was, and the colonies it
-- touched. No row where it is too old, where one of its records was changed since by anybody, or where a count, visit,
-- frame, course, step, move or event was recorded of these colonies since. An undo is not undone.
CREATE FUNCTION undoable_change(given uuid)
    RETURNS TABLE (change text, kind text, colony_ids uuid[], first_seq bigint, last_seq bigint)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    WITH mine AS (
        SELECT a.*, CASE a.table_name
                WHEN 'colony' THEN ARRAY[a.record_id]
                WHEN 'frame_move' THEN ARRAY[(a.current ->> 'from_colony')::uuid, (a.current ->> 'to_colony')::uuid]
                WHEN 'hive' THEN ARRAY(SELECT c.id FROM colony c WHERE c.hive_id = a.record_id)
                WHEN 'hive_box' THEN ARRAY(SELECT c.id FROM colony c WHERE c.hive_id = (a.current ->> 'hive_id')::uuid)
                ELSE ARRAY[(a.current ->> 'colony_id')::uuid, (a.current ->> 'other_colony_id')::uuid] END AS touched
        FROM audit a
        WHERE a.by_person = my_person() AND a.at > now() - undo_time() AND a.association_id = my_association()
    ), latest AS (
        SELECT xact, at FROM mine WHERE given = ANY (touched) ORDER BY seq DESC LIMIT 1
    ), entry AS (
        SELECT mine.* FROM mine JOIN latest USING (xact, at)
    ), act AS (
        SELECT (SELECT xact::text FROM latest) AS change, (SELECT at FROM latest) AS at, min(seq) AS first_seq,
               max(seq) AS last_seq, bool_and(reason <> 'undone' AND table_name IN
                   ('colony', 'queen', 'colony_hold', 'colony_event', 'hive', 'hive_box', 'frame', 'frame_move')) AS fits,
               (SELECT array_agg(DISTINCT one) FROM entry e, unnest(e.touched) AS one WHERE one IS NOT NULL) AS colony_ids,
               coalesce(
                   (SELECT e.current ->> 'kind' FROM entry e WHERE e.table_name = 'colony_event' ORDER BY array_position(
                        ARRAY['merged_into', 'split_from', 'started', 'moved', 'state', 'renumbered'], e.current ->> 'kind') LIMIT 1),
                   (SELECT CASE e.act WHEN 'created' THEN 'held' ELSE 'lifted' END FROM entry e
                    WHERE e.table_name = 'colony_hold' LIMIT 1),
                   (SELECT 'queen_given' FROM entry e WHERE e.table_name = 'queen' AND e.act = 'created' LIMIT 1),
                   (SELECT 'queen_amended' FROM entry e WHERE e.table_name = 'queen' LIMIT 1),
                   (SELECT 'boxes' FROM entry e WHERE e.table_name IN ('hive', 'hive_box') LIMIT 1),
                   (SELECT 'frame_moved' FROM entry e WHERE e.table_name = 'frame_move' LIMIT 1),
                   (SELECT 'note' FROM entry e WHERE e.table_name = 'colony' LIMIT 1)) AS kind
        FROM entry
    )
    SELECT act.change, act.kind, act.colony_ids, act.first_seq, act.last_seq FROM act
    WHERE act.fits AND act.kind IS NOT NULL AND i_may_write()
      AND NOT EXISTS (SELECT FROM audit l JOIN entry e USING (record_id) WHERE l.seq > act.last_seq)
      AND NOT EXISTS (SELECT FROM mite_count m WHERE m.colony_id = ANY (act.colony_ids) AND m.created_at > act.at)
      AND NOT EXISTS (SELECT FROM visit v JOIN audit a ON a.record_id = v.id AND a.table_name = 'visit'
                      WHERE v.colony_id = ANY (act.colony_ids) AND a.seq > act.last_seq)
      AND NOT EXISTS (SELECT FROM visit_frame f WHERE f.colony_id = ANY (act.colony_ids) AND f.saved_at > act.at)
      AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = ANY (act.colony_ids) AND t.created_at > act.at)
      AND NOT EXISTS (SELECT FROM course t JOIN course_act s ON s.course_id = t.id
                      WHERE t.colony_id = ANY (act.colony_ids) AND s.created_at > act.at)
      AND NOT EXISTS (SELECT FROM frame_move m WHERE (m.from_colony = ANY (act.colony_ids) OR m.to_colony = ANY (act.colony_ids))
                      AND m.created_at > act.at AND m.id NOT IN (SELECT record_id FROM entry))
      AND NOT EXISTS (SELECT FROM colony_event o
                      WHERE (o.colony_id = ANY (act.colony_ids) OR o.other_colony_id = ANY (act.colony_ids))
                      AND o.created_at > act.at AND o.id NOT IN (SELECT record_id FROM entry)) $$;

-- Takes a change back, row by row, the last one first: what was created goes, what was amended is as it was. The
-- colonies it touched, or nothing where it is not to be undone any more, or where something else rests on a row of it.
CREATE FUNCTION undo_change(given uuid, wanted text) RETURNS uuid[] LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    found record;
    entry audit;
    columns text;
BEGIN
    SELECT * INTO found FROM undoable_change(given);
    PERFORM FROM colony WHERE id = ANY (found.colony_ids) ORDER BY id FOR UPDATE;
    -- Once more, with the colonies held: somebody may have recorded something meanwhile.
    SELECT * INTO found FROM undoable_change(given);
    IF found.change IS DISTINCT FROM wanted OR wanted IS NULL THEN
        RETURN NULL;
    END IF;
    PERFORM set_config('redframe.reason', 'undone', true);
    FOR entry IN SELECT * FROM audit a WHERE a.seq BETWEEN found.first_seq AND found.last_seq
                 AND a.xact::text = found.change AND a.by_person = my_person() ORDER BY a.seq DESC LOOP
        IF entry.act = 'created' THEN
            EXECUTE format('DELETE FROM %I WHERE id = $1', entry.table_name) USING entry.record_id;
            INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
            VALUES (entry.association_id, entry.table_name, entry.record_id, 'undone', my_person(), 'undone',
                    entry.current, entry.current);
        ELSE
            SELECT string_agg(quote_ident(attname), ', ') INTO columns FROM pg_attribute
            WHERE attrelid = entry.table_name::regclass AND attnum > 0 AND NOT attisdropped
              AND attname NOT IN ('id', 'version');
            EXECUTE format('UPDATE %1$I SET (%2$s) = (SELECT %2$s FROM jsonb_populate_record(NULL::%1$I, $2)) WHERE id = $1',
                           entry.table_name, columns) USING entry.record_id, entry.previous;
        END IF;
    END LOOP;
    SET CONSTRAINTS ALL IMMEDIATE;
    RETURN found.colony_ids;
EXCEPTION WHEN integrity_constraint_violation THEN
    RETURN NULL;
END $$;

REVOKE EXECUTE ON FUNCTION undoable_change(uuid), undo_change(uuid, text) FROM public;
GRANT EXECUTE ON FUNCTION undoable_change(uuid), undo_change(uuid, text) TO redframe_app;
