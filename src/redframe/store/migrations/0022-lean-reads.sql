-- Functions that readers call at every answer, as PL/pgSQL: it keeps the plan of a statement with the connection, where
-- a function of plain SQL that runs as its owner is planned each time. What they say is as it was.

-- The bearer of a session, where it still holds.
CREATE OR REPLACE FUNCTION session_lookup(given_hash bytea)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text,
                   timezone text, unseen boolean)
    LANGUAGE plpgsql STABLE SECURITY DEFINER ROWS 1 SET search_path = pg_catalog, public, pg_temp AS $$
#variable_conflict use_column
BEGIN
    RETURN QUERY
    SELECT m.person_id, m.id, m.association_id, m.role, m.keeper_id, s.csrf_token, a.timezone,
           s.seen_at < now() - interval '5 minutes'
    FROM session s JOIN membership m ON m.id = s.membership_id JOIN association a ON a.id = m.association_id
    WHERE s.token_hash = given_hash AND s.expires_at > now() AND s.seen_at > now() - s.idle AND m.ended_at IS NULL;
END $$;

-- The same, with the scope of what is asked for and how often it has been written to.
CREATE OR REPLACE FUNCTION session_asking(given_hash bytea, shows text, record uuid)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text,
                   timezone text, unseen boolean, scope text, changes bigint)
    LANGUAGE plpgsql STABLE SECURITY DEFINER ROWS 1 SET search_path = pg_catalog, public, pg_temp AS $$
#variable_conflict use_column
DECLARE
    place text := coalesce(CASE shows
        WHEN 'apiary' THEN (SELECT a.id FROM apiary a WHERE a.id = record)
        WHEN 'colony' THEN (SELECT c.apiary_id FROM colony c WHERE c.id = record)
        WHEN 'visit' THEN (SELECT c.apiary_id FROM visit v JOIN colony c ON c.id = v.colony_id WHERE v.id = record)
        WHEN 'course' THEN (SELECT c.apiary_id FROM course p JOIN colony c ON c.id = p.colony_id WHERE p.id = record)
        END::text, 'work');
BEGIN
    RETURN QUERY
    SELECT s.*, place, (SELECT coalesce(sum(c.n), 0)::bigint FROM change_count c
                        WHERE c.association_id = s.association_id AND c.scope IN (place, 'shared'))
    FROM session_lookup(given_hash) s;
END $$;

-- The names of the people who work or have worked in the association, and nothing else of them. It reads as its owner:
-- the rules of `person` and `membership` would hide most of them. A join instead of a function called for every row.
CREATE VIEW member WITH (security_barrier = true) AS
    SELECT p.id, p.name FROM membership m JOIN person p ON p.id = m.person_id
    WHERE m.association_id = (SELECT my_association());
GRANT SELECT ON member TO redframe_app;

-- Without a search path of their own these are written into the statement that calls them.
CREATE OR REPLACE FUNCTION undo_time() RETURNS interval LANGUAGE sql STABLE AS $$ SELECT interval '15 minutes' $$;
CREATE OR REPLACE FUNCTION may_undo(by_whom uuid, at timestamptz, version integer) RETURNS boolean LANGUAGE sql STABLE AS
    $$ SELECT coalesce(by_whom = my_person() AND at > now() - undo_time() AND version = 1, false) $$;

CREATE OR REPLACE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id, t.policy_version, t.start_on,
       t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on, t.ended_on, t.honey_clear_on,
       t.suitability->'reasons' AS reasons, t.overrides, t.verdict, t.abandoned_why,
       coalesce((SELECT name FROM member WHERE member.id = t.by_person), '') AS by_name, t.created_at, t.version
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;
CREATE OR REPLACE VIEW count_record WITH (security_invoker = true) AS
SELECT m.id, m.colony_id, m.method, m.taken_at, m.taken_on, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g,
       m.place_of_bees, m.brood_state, m.queen_safe, m.rested_s, m.wet, m.placed_at, m.squares, m.squares_in_all,
       m.cleaned, m.greased, m.ants, m.cells_opened, m.cells_infested, m.mites_in_cells, m.patches, m.mites_seen,
       m.targeted, m.note,
       coalesce((SELECT name FROM member WHERE member.id = m.by_person), '') AS by_name, m.created_at, m.version,
       (SELECT p.id FROM board_picture p WHERE p.count_id = m.id) AS picture_id, r.scale, r.mites, r.board_days,
       r.board_cv, r.bees_mean, r.bees_cv, r.recovery, r.as_counted, r.median, r.low, r.high, r.upper80,
       may_undo(m.by_person, m.created_at, m.version) AS may_undo
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id;
DROP FUNCTION name_of(uuid);

-- Whether a visit was closed a little while ago by the person at work, and nothing was done to it since.
CREATE OR REPLACE FUNCTION may_reopen(visit_id uuid) RETURNS boolean
    LANGUAGE plpgsql STABLE SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    RETURN coalesce((SELECT a.act = 'created' AND a.by_person = my_person() AND a.at > now() - undo_time()
                     FROM audit a WHERE a.record_id = may_reopen.visit_id AND a.table_name IN ('visit', 'visit_frame')
                     ORDER BY a.seq DESC LIMIT 1), false);
END $$;

-- The latest change to a colony that the person at work may still take back: most readers have written nothing of late,
-- and are answered from the index of who wrote when.
CREATE OR REPLACE FUNCTION undoable_change(given uuid)
    RETURNS TABLE (change text, kind text, colony_ids uuid[], first_seq bigint, last_seq bigint)
    LANGUAGE plpgsql STABLE SECURITY DEFINER ROWS 1 SET search_path = pg_catalog, public, pg_temp AS $$
#variable_conflict use_column
BEGIN
    IF NOT EXISTS (SELECT FROM audit a WHERE a.by_person = my_person() AND a.at > now() - undo_time()) THEN
        RETURN;
    END IF;
    RETURN QUERY
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
                      AND o.created_at > act.at AND o.id NOT IN (SELECT record_id FROM entry));
END $$;
