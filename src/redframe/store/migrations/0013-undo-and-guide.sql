-- What is recorded can be undone by whoever recorded it, for a short while and while nothing rests on it; the history
-- keeps what was there. And the guide of a new association.

ALTER TABLE audit DROP CONSTRAINT audit_act_check;
ALTER TABLE audit ADD CONSTRAINT audit_act_check CHECK (act IN ('created', 'amended', 'undone'));

CREATE FUNCTION undo_time() RETURNS interval LANGUAGE sql IMMUTABLE SET search_path = pg_catalog, pg_temp
    AS $$ SELECT interval '15 minutes' $$;

CREATE FUNCTION may_undo(by_whom uuid, at timestamptz, version integer) RETURNS boolean
    LANGUAGE sql STABLE SET search_path = pg_catalog, public, pg_temp
    AS $$ SELECT coalesce(by_whom = my_person() AND at > now() - undo_time() AND version = 1, false) $$;

-- A count with all that was read from it; its board lies again, its picture's marks are open again. False where it is
-- not to be undone: another person's, too old, amended since, or a course rests on it.
CREATE FUNCTION undo_count(given uuid) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    taken mite_count;
BEGIN
    SELECT * INTO taken FROM mite_count
    WHERE id = given AND association_id = my_association() AND may_undo(by_person, created_at, version) FOR UPDATE;
    IF NOT FOUND OR NOT i_may_write() OR EXISTS (SELECT FROM course_act WHERE count_id = given) THEN
        RETURN false;
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
    VALUES (taken.association_id, 'mite_count', taken.id, 'undone', my_person(), 'undone', to_jsonb(taken), to_jsonb(taken));
    UPDATE board_picture SET marks = NULL, counted = NULL, count_id = NULL WHERE count_id = given;
    UPDATE insert_board SET count_id = NULL, removed_at = NULL WHERE count_id = given;
    DELETE FROM outlook WHERE count_id = given;
    DELETE FROM count_reading WHERE count_id = given;
    DELETE FROM mite_count WHERE id = given;
    RETURN true;
END $$;

-- What was recorded of a step. False where it is not to be undone: also where a later step is recorded,
-- or one at the same moment.
CREATE FUNCTION undo_act(given uuid) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    taken course_act;
BEGIN
    SELECT * INTO taken FROM course_act
    WHERE id = given AND association_id = my_association() AND may_undo(by_person, created_at, version) FOR UPDATE;
    IF NOT FOUND OR NOT i_may_write()
       OR EXISTS (SELECT FROM course_act WHERE course_id = taken.course_id AND id <> given
                  AND created_at >= taken.created_at) THEN
        RETURN false;
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
    VALUES (taken.association_id, 'course_act', taken.id, 'undone', my_person(), 'undone', to_jsonb(taken), to_jsonb(taken));
    DELETE FROM course_act WHERE id = given;
    RETURN true;
END $$;

-- Whether the closing of a visit may be undone: by whoever closed it, unless it was amended since.
CREATE FUNCTION may_reopen(visit_id uuid) RETURNS boolean LANGUAGE sql STABLE
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT coalesce((SELECT a.act = 'created' AND a.by_person = my_person() AND a.at > now() - undo_time()
                     FROM audit a WHERE a.record_id = visit_id AND a.table_name IN ('visit', 'visit_frame')
                     ORDER BY a.seq DESC LIMIT 1), false) $$;

REVOKE EXECUTE ON FUNCTION undo_time(), may_undo(uuid, timestamptz, integer), undo_count(uuid), undo_act(uuid),
    may_reopen(uuid) FROM public;
GRANT EXECUTE ON FUNCTION undo_time(), may_undo(uuid, timestamptz, integer), undo_count(uuid), undo_act(uuid),
    may_reopen(uuid) TO redframe_app;

CREATE OR REPLACE VIEW count_record WITH (security_invoker = true) AS
SELECT m.id, m.colony_id, m.method, m.taken_at, m.taken_on, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g,
       m.place_of_bees, m.brood_state, m.queen_safe, m.rested_s, m.wet, m.placed_at, m.squares, m.squares_in_all,
       m.cleaned, m.greased, m.ants, m.cells_opened, m.cells_infested, m.mites_in_cells, m.patches, m.mites_seen,
       m.targeted, m.note, coalesce(name_of(m.by_person), '') AS by_name, m.created_at, m.version,
       (SELECT p.id FROM board_picture p WHERE p.count_id = m.id) AS picture_id, r.scale, r.mites, r.board_days,
       r.board_cv, r.bees_mean, r.bees_cv, r.recovery, r.as_counted, r.median, r.low, r.high, r.upper80,
       may_undo(m.by_person, m.created_at, m.version) AS may_undo
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id;

-- Parts of the guide that somebody said fit as they are; what is recorded otherwise says itself that it is done.
CREATE TABLE guide_step (
    association_id  uuid NOT NULL REFERENCES association,
    step            text NOT NULL CHECK (step IN ('season', 'scoop', 'people')),
    by_person       uuid REFERENCES person,
    at              timestamptz NOT NULL DEFAULT now(),
    PRIMARY KEY (association_id, step)
);
ALTER TABLE guide_step ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON guide_step FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY created ON guide_step FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT, INSERT ON guide_step TO redframe_app;

-- Associations that keep colonies already have begun.
INSERT INTO guide_step (association_id, step)
SELECT a.id, s.step FROM association a, unnest(ARRAY['season', 'scoop', 'people']) AS s (step)
WHERE EXISTS (SELECT FROM colony c WHERE c.association_id = a.id);
