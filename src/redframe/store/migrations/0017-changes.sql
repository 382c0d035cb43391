-- How often something was written that a page shows, so that an answer can be kept until then. Counted apart: each apiary
-- (its own page, those of its colonies and their visits), `work` (the pages across all apiaries) and `shared` (what may
-- stand on any page). A count becomes visible with the write itself, when that commits, and never falls.

CREATE TABLE change_count (
    association_id  uuid NOT NULL REFERENCES association ON DELETE CASCADE,
    scope           text NOT NULL,             -- 'work', 'shared', or the id of an apiary
    slot            bigint NOT NULL,           -- those who write at once count in slots of their own
    n               bigint NOT NULL DEFAULT 1,
    PRIMARY KEY (association_id, scope, slot)
) WITH (fillfactor = 50);
CREATE SEQUENCE change_slot;

-- Counts once a transaction and scope, in a slot that nobody holds: no writer ever waits for another because of this.
CREATE FUNCTION count_change(association uuid, scopes text[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    counted text := coalesce(current_setting('redframe.counted', true), '');
    key text;
    wanted text;
BEGIN
    -- What changes very many apiaries changes all of them.
    IF cardinality(scopes) > 40 THEN
        scopes := ARRAY['shared'];
    END IF;
    FOREACH wanted IN ARRAY scopes LOOP
        key := association || wanted;
        CONTINUE WHEN position(key IN counted) > 0;
        UPDATE change_count c SET n = n + 1 WHERE (c.association_id, c.scope, c.slot) = (
            SELECT f.association_id, f.scope, f.slot FROM change_count f
            WHERE f.association_id = association AND f.scope = wanted LIMIT 1 FOR UPDATE SKIP LOCKED);
        IF NOT FOUND THEN
            INSERT INTO change_count (association_id, scope, slot) VALUES (association, wanted, nextval('change_slot'));
        END IF;
        counted := counted || key;
    END LOOP;
    PERFORM set_config('redframe.counted', counted, true);
END $$;

-- Each table says how its rows lead to what is counted. `touched`: the rows of one statement.
CREATE FUNCTION count_touched() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    owner uuid;
    scopes text[];
BEGIN
    CASE TG_ARGV[0]
    WHEN 'shared' THEN
        FOR owner IN SELECT DISTINCT association_id FROM touched LOOP
            PERFORM count_change(owner, ARRAY['shared']);
        END LOOP;
        RETURN NULL;
    WHEN 'association' THEN
        FOR owner IN SELECT id FROM touched LOOP
            PERFORM count_change(owner, ARRAY['shared']);
        END LOOP;
        RETURN NULL;
    WHEN 'person' THEN
        FOR owner IN SELECT DISTINCT m.association_id FROM membership m JOIN touched t ON t.id = m.person_id LOOP
            PERFORM count_change(owner, ARRAY['shared']);
        END LOOP;
        RETURN NULL;
    WHEN 'apiary' THEN
        FOR owner, scopes IN SELECT association_id, array_agg(DISTINCT apiary_id::text ORDER BY apiary_id::text)
            FROM touched WHERE apiary_id IS NOT NULL GROUP BY 1 LOOP
            PERFORM count_change(owner, scopes);
        END LOOP;
    WHEN 'colony' THEN
        FOR owner, scopes IN SELECT c.association_id, array_agg(DISTINCT c.apiary_id::text ORDER BY c.apiary_id::text)
            FROM colony c WHERE c.id IN (SELECT colony_id FROM touched) GROUP BY 1 LOOP
            PERFORM count_change(owner, scopes);
        END LOOP;
    WHEN 'course' THEN
        FOR owner, scopes IN SELECT c.association_id, array_agg(DISTINCT c.apiary_id::text ORDER BY c.apiary_id::text)
            FROM colony c WHERE c.id IN (SELECT p.colony_id FROM course p JOIN touched t ON t.course_id = p.id) GROUP BY 1 LOOP
            PERFORM count_change(owner, scopes);
        END LOOP;
    WHEN 'hive' THEN
        FOR owner, scopes IN SELECT h.association_id, array_agg(DISTINCT h.apiary_id::text ORDER BY h.apiary_id::text)
            FROM hive h WHERE h.id IN (SELECT hive_id FROM touched) GROUP BY 1 LOOP
            PERFORM count_change(owner, scopes);
        END LOOP;
    WHEN 'move' THEN
        FOR owner, scopes IN SELECT m.association_id, array_agg(DISTINCT m.place::text ORDER BY m.place::text)
            FROM (SELECT association_id, from_apiary AS place FROM touched
                  UNION ALL SELECT association_id, to_apiary FROM touched) AS m WHERE m.place IS NOT NULL GROUP BY 1 LOOP
            PERFORM count_change(owner, scopes);
        END LOOP;
    END CASE;
    IF TG_NARGS > 1 THEN
        FOR owner IN SELECT DISTINCT association_id FROM touched LOOP
            PERFORM count_change(owner, ARRAY['work']);
        END LOOP;
    END IF;
    RETURN NULL;
END $$;

DO $$
DECLARE
    entry record;
    event text;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('association', '''association'''), ('person', '''person'''),
        ('policy', '''shared'''), ('apiary_policy', '''shared'''), ('keeper', '''shared'''), ('apiary', '''shared'''),
        ('membership', '''shared'''), ('colony', '''shared'''), ('hive', '''shared'''), ('queen', '''shared'''),
        ('colony_event', '''shared'''), ('colony_hold', '''shared'''), ('count_week', '''shared'''),
        ('count_week_keeper', '''shared'''), ('forecast_run', '''shared'''), ('colony_forecast', '''shared'''),
        ('forecast_evaluation', '''shared'''),
        ('frame', '''apiary'''), ('hive_box', '''hive'''), ('frame_move', '''move'''),
        ('visit', '''colony'''), ('visit_frame', '''colony'''), ('photo', '''colony'''), ('mite_count', '''colony'''),
        ('count_reading', '''colony'''), ('board_picture', '''colony'''), ('outlook', '''colony'''),
        ('colony_status', '''colony'''), ('course_act', '''course'''),
        ('insert_board', '''colony'', ''work'''), ('course', '''colony'', ''work'''), ('course_step', '''course'', ''work'''),
        ('colony_now', '''apiary'', ''work'''), ('apiary_now', '''apiary'', ''work''')) AS t (tab, leads)
    LOOP
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(%s)', lower(event), event, entry.tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END, entry.leads);
        END LOOP;
    END LOOP;
END $$;

-- An apiary that comes to need an answer, or needs it no more, is named at those near it.
CREATE FUNCTION count_urgent() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    owner uuid;
BEGIN
    FOR owner IN SELECT DISTINCT f.association_id FROM fresh f JOIN gone g USING (apiary_id)
        WHERE (f.urgent, f.over_alone, f.over_urgent) IS DISTINCT FROM (g.urgent, g.over_alone, g.over_urgent) LOOP
        PERFORM count_change(owner, ARRAY['shared']);
    END LOOP;
    RETURN NULL;
END $$;
CREATE TRIGGER change_urgent AFTER UPDATE ON apiary_now REFERENCING NEW TABLE AS fresh OLD TABLE AS gone
    FOR EACH STATEMENT EXECUTE FUNCTION count_urgent();

ALTER TABLE change_count ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON change_count FOR SELECT USING (association_id = (SELECT my_association()) AND (scope IN ('work', 'shared')
    OR (SELECT my_role()) <> 'keeper' OR scope = ANY ((SELECT my_apiaries())::text[])));
GRANT SELECT ON change_count TO redframe_app;

-- The session of a token, with where a page stands that shows a record and how often that was written.
CREATE FUNCTION session_asking(given_hash bytea, shows text, record uuid)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text,
                   timezone text, scope text, changes bigint)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT s.*, p.scope, (SELECT coalesce(sum(c.n), 0)::bigint FROM change_count c
                          WHERE c.association_id = s.association_id AND c.scope IN (p.scope, 'shared'))
    FROM session_lookup(given_hash) s CROSS JOIN LATERAL (SELECT coalesce((CASE shows
        WHEN 'apiary' THEN (SELECT a.id FROM apiary a WHERE a.id = record)
        WHEN 'colony' THEN (SELECT c.apiary_id FROM colony c WHERE c.id = record)
        WHEN 'visit' THEN (SELECT c.apiary_id FROM visit v JOIN colony c ON c.id = v.colony_id WHERE v.id = record)
        WHEN 'course' THEN (SELECT c.apiary_id FROM course p JOIN colony c ON c.id = p.colony_id WHERE p.id = record)
        END)::text, 'work') AS scope) p $$;

REVOKE EXECUTE ON FUNCTION count_change(uuid, text[]), count_touched(), count_urgent(), session_asking(bytea, text, uuid)
    FROM public;
GRANT EXECUTE ON FUNCTION session_asking(bytea, text, uuid) TO redframe_app;
