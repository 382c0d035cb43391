-- Who may see and write what, and the history of every change. Held by the database, not by the application's good will.

DO $$ BEGIN
    IF NOT EXISTS (SELECT FROM pg_roles WHERE rolname = 'redframe_app') THEN
        CREATE ROLE redframe_app NOLOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOBYPASSRLS;
    END IF;
END $$;

-- The person at work in this transaction, set by the application at its start.
CREATE FUNCTION my_association() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT nullif(current_setting('redframe.association', true), '')::uuid $$;
CREATE FUNCTION my_role() RETURNS text LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT coalesce(current_setting('redframe.role', true), '') $$;
CREATE FUNCTION my_keeper() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT nullif(current_setting('redframe.keeper', true), '')::uuid $$;
CREATE FUNCTION my_person() RETURNS uuid LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT nullif(current_setting('redframe.person', true), '')::uuid $$;
CREATE FUNCTION i_may_write() RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT coalesce((SELECT may_write FROM role WHERE name = my_role()), false) $$;
CREATE FUNCTION i_am_staff() RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT coalesce((SELECT is_staff FROM role WHERE name = my_role()), false) $$;

-- What a keeper reaches, gathered once a statement; for everybody else it is never run, which keeps planning cheap.
CREATE FUNCTION my_apiaries() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM apiary WHERE association_id = my_association() AND keeper_id = my_keeper() $$;
CREATE FUNCTION my_colonies() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM colony WHERE apiary_id = ANY(my_apiaries()) $$;
CREATE FUNCTION my_hives() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM hive WHERE apiary_id = ANY(my_apiaries()) $$;
CREATE FUNCTION my_courses() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM course WHERE colony_id = ANY(my_colonies()) $$;

GRANT USAGE ON SCHEMA public TO redframe_app;
GRANT SELECT ON role, level, colony_state, course_state, frame_format TO redframe_app;

-- People and policies: each with a rule of its own.
DO $$
DECLARE
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('association'), ('policy'), ('keeper'), ('apiary'), ('accepted_write'), ('person'),
        ('membership'), ('invitation'), ('audit'), ('forecast_run'), ('count_week'), ('count_week_keeper'),
        ('forecast_evaluation'), ('colony_forecast')) AS t (tab)
    LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
    END LOOP;
END $$;

CREATE POLICY seen ON association FOR SELECT USING (id = (SELECT my_association()));
GRANT SELECT ON association TO redframe_app;

CREATE POLICY seen ON policy FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY created ON policy FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT, INSERT ON policy TO redframe_app;

CREATE POLICY seen ON keeper FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR id = (SELECT my_keeper())));
CREATE POLICY created ON keeper FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_am_staff()));
CREATE POLICY amended ON keeper FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_am_staff()));
GRANT SELECT, INSERT, UPDATE ON keeper TO redframe_app;

CREATE POLICY seen ON apiary FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
CREATE POLICY created ON apiary FOR INSERT WITH CHECK (association_id = (SELECT my_association())
    AND (SELECT i_may_write()) AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
CREATE POLICY amended ON apiary FOR UPDATE USING (association_id = (SELECT my_association())
    AND (SELECT i_may_write()) AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
GRANT SELECT, INSERT, UPDATE ON apiary TO redframe_app;

CREATE POLICY mine ON accepted_write USING (association_id = (SELECT my_association()) AND person_id = (SELECT my_person()));
GRANT SELECT, INSERT ON accepted_write TO redframe_app;

CREATE POLICY colleagues ON person FOR SELECT USING (id = (SELECT my_person()) OR ((SELECT my_role()) <> 'keeper'
    AND id IN (SELECT person_id FROM membership WHERE association_id = (SELECT my_association()))));
CREATE POLICY myself ON person FOR UPDATE USING (id = (SELECT my_person()));
GRANT SELECT (id, email, name, temperature, mass, volume, theme) ON person TO redframe_app;
GRANT UPDATE (name, temperature, mass, volume, theme) ON person TO redframe_app;

CREATE POLICY mine ON membership FOR SELECT
    USING (association_id = (SELECT my_association()) OR person_id = (SELECT my_person()));
CREATE POLICY amended ON membership FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT ON membership TO redframe_app;
GRANT UPDATE (role, keeper_id, ended_at) ON membership TO redframe_app;

CREATE POLICY administered ON invitation
    USING (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT, INSERT ON invitation TO redframe_app;
GRANT UPDATE (token_hash, expires_at, withdrawn_at) ON invitation TO redframe_app;

CREATE POLICY seen ON audit FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR current ->> 'colony_id' IN (SELECT id::text FROM colony)));
GRANT SELECT ON audit TO redframe_app;

-- What is computed for the whole association, and what its staff organise.
CREATE POLICY mine ON forecast_run USING (association_id = (SELECT my_association()))
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_am_staff()));
GRANT SELECT, INSERT, UPDATE ON forecast_run TO redframe_app;

CREATE POLICY seen ON colony_forecast FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR colony_id = ANY ((SELECT my_colonies())::uuid[])));
CREATE POLICY seen ON forecast_evaluation FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY seen ON count_week FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY seen ON count_week_keeper FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
DO $$
DECLARE
    entry record;
    staff text := 'association_id = (SELECT my_association()) AND (SELECT i_am_staff())';
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('colony_forecast', true), ('forecast_evaluation', true), ('count_week_keeper', true),
        ('count_week', false)) AS t (tab, is_replaced)
    LOOP
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s)', entry.tab, staff);
        EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s)', entry.tab, staff);
        EXECUTE format('GRANT SELECT, INSERT, UPDATE ON %I TO redframe_app', entry.tab);
        IF entry.is_replaced THEN
            EXECUTE format('CREATE POLICY deleted ON %I FOR DELETE USING (%s)', entry.tab, staff);
            EXECUTE format('GRANT DELETE ON %I TO redframe_app', entry.tab);
        END IF;
    END LOOP;
END $$;

-- Everything below an apiary follows it; everything about a colony follows the colony. `amended`: it has versions or
-- moves on; `replaced`: it is derived and computed again. Nothing that was recorded can be deleted.
DO $$
DECLARE
    follows text;
    own text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('hive', 'apiary_id', 'my_apiaries', true, false), ('apiary_policy', 'apiary_id', 'my_apiaries', false, false),
        ('colony', 'apiary_id', 'my_apiaries', true, false), ('frame', 'apiary_id', 'my_apiaries', true, false),
        ('hive_box', 'hive_id', 'my_hives', true, false),
        ('queen', 'colony_id', 'my_colonies', true, false), ('colony_event', 'colony_id', 'my_colonies', true, false),
        ('colony_hold', 'colony_id', 'my_colonies', false, false),
        ('visit', 'colony_id', 'my_colonies', true, false), ('visit_frame', 'colony_id', 'my_colonies', true, false),
        ('photo', 'colony_id', 'my_colonies', false, false), ('frame_move', '', '', false, false),
        ('mite_count', 'colony_id', 'my_colonies', true, false), ('count_reading', 'colony_id', 'my_colonies', true, true),
        ('insert_board', 'colony_id', 'my_colonies', true, false), ('board_picture', 'colony_id', 'my_colonies', false, false),
        ('outlook', 'colony_id', 'my_colonies', true, true), ('colony_status', 'colony_id', 'my_colonies', true, true),
        ('course', 'colony_id', 'my_colonies', true, false), ('course_step', 'course_id', 'my_courses', true, true),
        ('course_act', 'course_id', 'my_courses', true, false)) AS t (tab, own, mine, amended, replaced)
    LOOP
        own := CASE entry.tab WHEN 'frame_move'
            THEN '(from_apiary = ANY ((SELECT my_apiaries())::uuid[]) OR to_apiary = ANY ((SELECT my_apiaries())::uuid[]))'
            ELSE format('%I = ANY ((SELECT %I())::uuid[])', entry.own, entry.mine) END;
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)', own);
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('GRANT SELECT, INSERT ON %I TO redframe_app', entry.tab);
        IF entry.amended THEN
            EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
            EXECUTE format('GRANT UPDATE ON %I TO redframe_app', entry.tab);
        END IF;
        IF entry.replaced THEN
            EXECUTE format('CREATE POLICY replaced ON %I FOR DELETE USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
            EXECUTE format('GRANT DELETE ON %I TO redframe_app', entry.tab);
        END IF;
    END LOOP;
END $$;

-- Of a hold only its end is changed, and by those who may release combs.
CREATE POLICY lifted ON colony_hold FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT my_role()) IN ('administrator', 'inspector'));
GRANT UPDATE (until, lifted_why) ON colony_hold TO redframe_app;

-- The marks of a picture are saved once, with their count; afterwards nothing of it changes.
CREATE POLICY counted ON board_picture FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_may_write()) AND count_id IS NULL
           AND ((SELECT my_role()) <> 'keeper' OR colony_id = ANY ((SELECT my_colonies())::uuid[])))
    WITH CHECK (association_id = (SELECT my_association()));
GRANT UPDATE (marks, counted, count_id) ON board_picture TO redframe_app;

-- Who wrote a record: its name alone, also for a keeper, who sees no list of people.
CREATE FUNCTION name_of(who uuid) RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public
    AS $$ SELECT p.name FROM person p WHERE p.id = who
          AND EXISTS (SELECT FROM membership m WHERE m.person_id = who AND m.association_id = my_association()) $$;

-- Signing in happens before anyone is known: only these functions reach passwords and sessions.
CREATE FUNCTION sign_in_lookup(given_email text) RETURNS TABLE (person_id uuid, password_hash text, membership_id uuid)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT p.id, p.password_hash, m.id FROM person p JOIN membership m ON m.person_id = p.id AND m.ended_at IS NULL
    JOIN association a ON a.id = m.association_id
    WHERE p.email = lower(given_email) ORDER BY a.created_at, a.name LIMIT 1 $$;

CREATE FUNCTION sign_in_failures(given_email text, given_origin text, since interval)
    RETURNS TABLE (by_email bigint, by_origin bigint) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT (SELECT count(*) FROM sign_in_attempt WHERE email = lower(given_email) AND NOT ok AND at > now() - since
               AND at > coalesce((SELECT max(at) FROM sign_in_attempt WHERE email = lower(given_email) AND ok), '-infinity')),
           (SELECT count(*) FROM sign_in_attempt WHERE origin = given_origin AND NOT ok AND at > now() - since) $$;

CREATE FUNCTION sign_in_note(given_email text, given_origin text, succeeded boolean) RETURNS void
    LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    DELETE FROM sign_in_attempt WHERE at < now() - interval '1 day';
    INSERT INTO sign_in_attempt (email, origin, ok) VALUES (lower(left(given_email, 254)), left(given_origin, 64), succeeded) $$;

CREATE FUNCTION session_open(given_hash bytea, given_csrf text, given_membership uuid, lasts interval) RETURNS void
    LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    DELETE FROM session WHERE expires_at < now();
    INSERT INTO session (token_hash, csrf_token, membership_id, expires_at)
    VALUES (given_hash, given_csrf, given_membership, now() + lasts) $$;

CREATE FUNCTION session_lookup(given_hash bytea)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text, timezone text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT m.person_id, m.id, m.association_id, m.role, m.keeper_id, s.csrf_token, a.timezone
    FROM session s JOIN membership m ON m.id = s.membership_id JOIN association a ON a.id = m.association_id
    WHERE s.token_hash = given_hash AND s.expires_at > now() AND m.ended_at IS NULL $$;

CREATE FUNCTION session_close(given_hash bytea) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public
    AS $$ DELETE FROM session WHERE token_hash = given_hash $$;

CREATE FUNCTION session_close_all() RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    DELETE FROM session WHERE membership_id IN (SELECT id FROM membership WHERE person_id = my_person()) $$;

CREATE FUNCTION session_switch(given_hash bytea, to_membership uuid) RETURNS boolean
    LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    WITH moved AS (UPDATE session SET membership_id = to_membership WHERE token_hash = given_hash
        AND to_membership IN (SELECT id FROM membership WHERE person_id = my_person() AND ended_at IS NULL) RETURNING 1)
    SELECT EXISTS (SELECT FROM moved) $$;

CREATE FUNCTION my_password_hash() RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public
    AS $$ SELECT password_hash FROM person WHERE id = my_person() $$;
CREATE FUNCTION my_password_set(new_hash text) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public
    AS $$ UPDATE person SET password_hash = new_hash WHERE id = my_person() $$;
CREATE FUNCTION my_memberships() RETURNS TABLE (membership_id uuid, association_name text, role text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT m.id, a.name, m.role FROM membership m JOIN association a ON a.id = m.association_id
    WHERE m.person_id = my_person() AND m.ended_at IS NULL ORDER BY a.created_at, a.name $$;

-- Who holds a link has not signed in yet: these functions alone reach what it opens.
CREATE FUNCTION invitation_lookup(given_hash bytea)
    RETURNS TABLE (association text, role text, keeper text, email text, password_hash text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT a.name, i.role, k.name, i.email, p.password_hash
    FROM invitation i JOIN association a ON a.id = i.association_id
    LEFT JOIN keeper k ON k.id = i.keeper_id LEFT JOIN person p ON p.email = i.email
    WHERE i.token_hash = given_hash AND i.accepted_at IS NULL AND i.withdrawn_at IS NULL AND i.expires_at > now() $$;

-- Creates the person where the address is new, and the membership; no row when the link does not hold any more.
CREATE FUNCTION invitation_accept(given_hash bytea, given_person uuid, given_membership uuid, given_name text, new_password text)
    RETURNS TABLE (membership_id uuid) LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    WITH taken AS (
        UPDATE invitation SET accepted_at = now() WHERE token_hash = given_hash AND accepted_at IS NULL
        AND withdrawn_at IS NULL AND expires_at > now() RETURNING association_id, email, role, keeper_id),
    created AS (
        INSERT INTO person (id, email, name, password_hash) SELECT given_person, email, given_name, new_password FROM taken
        WHERE new_password IS NOT NULL RETURNING id),
    who AS (SELECT id FROM created UNION ALL SELECT p.id FROM person p JOIN taken t ON t.email = p.email)
    INSERT INTO membership AS m (id, person_id, association_id, role, keeper_id)
    SELECT given_membership, who.id, taken.association_id, taken.role, taken.keeper_id FROM taken, who
    ON CONFLICT (person_id, association_id)
        DO UPDATE SET role = excluded.role, keeper_id = excluded.keeper_id, ended_at = NULL
    RETURNING m.id $$;

-- For the work of the night, which nobody has asked for: which associations there are, and when their day begins.
CREATE FUNCTION associations_at_night() RETURNS TABLE (association_id uuid, timezone text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT id, timezone FROM association ORDER BY id $$;

-- The apiaries' mean rates of some days, as bare figures: what a keeper may set the own apiary against. Nothing where
-- fewer than three keepers counted.
CREATE FUNCTION apiary_rates_between(first_on date, last_on date) RETURNS TABLE (rate double precision)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    WITH latest AS (
        SELECT DISTINCT ON (m.colony_id) m.colony_id, r.median FROM mite_count m JOIN count_reading r ON r.count_id = m.id
        WHERE m.association_id = my_association() AND m.taken_on BETWEEN first_on AND last_on AND r.scale = 'mites_per_100'
        ORDER BY m.colony_id, m.taken_at DESC, m.created_at DESC, m.id
    ), apiaries AS (
        SELECT c.apiary_id, a.keeper_id, avg(l.median) AS rate FROM latest l JOIN colony c ON c.id = l.colony_id
        JOIN apiary a ON a.id = c.apiary_id GROUP BY 1, 2
    )
    SELECT rate FROM apiaries WHERE (SELECT count(DISTINCT keeper_id) FROM apiaries) >= 3 ORDER BY rate $$;

-- Where the apiaries of a week stand, coarsely, and what was counted in each: what a keeper's own apiary is set against
-- to tell whether mites are likely to come in. No place, no name.
CREATE FUNCTION week_coarsely(week uuid) RETURNS TABLE (
    apiary_id uuid, keeper_id uuid, single_row integer, single_column integer, double_row integer, double_column integer,
    days date[], rates double precision[]
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    WITH latest AS (
        SELECT DISTINCT ON (m.colony_id) c.apiary_id, m.taken_on, r.median
        FROM count_week w
        JOIN mite_count m ON m.association_id = w.association_id AND m.taken_on BETWEEN w.first_on AND w.last_on
        JOIN colony c ON c.id = m.colony_id
        JOIN count_reading r ON r.count_id = m.id AND r.scale = 'mites_per_100'
        WHERE w.id = week AND w.association_id = my_association() AND m.method IN ('wash', 'sugar', 'co2')
        ORDER BY m.colony_id, m.taken_on DESC, m.method = 'wash' DESC, m.taken_at DESC, m.created_at DESC, m.id
    )
    SELECT a.id, a.keeper_id, s.cell_row, s.cell_column, d.cell_row, d.cell_column,
           coalesce(array_agg(l.taken_on ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}'),
           coalesce(array_agg(l.median ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}')
    FROM count_week_keeper k JOIN apiary a ON a.keeper_id = k.keeper_id
    CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.1) s CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.2) d
    LEFT JOIN latest l ON l.apiary_id = a.id
    WHERE k.week_id = week AND k.association_id = my_association()
    GROUP BY a.id, a.keeper_id, s.cell_row, s.cell_column, d.cell_row, d.cell_column $$;

-- The application may call what stands above; the triggers below are called by the database alone.
REVOKE EXECUTE ON ALL FUNCTIONS IN SCHEMA public FROM public;
GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA public TO redframe_app;

CREATE FUNCTION keep_history() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'UPDATE' THEN
        IF to_jsonb(NEW) = to_jsonb(OLD) THEN
            RETURN NEW;
        END IF;
        -- A measurement or an act that is corrected says why.
        IF TG_ARGV[0] = 'reason' AND why = '' THEN
            RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
        END IF;
        NEW.version := OLD.version + 1;
        INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
        VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'amended', my_person(), why, to_jsonb(OLD), to_jsonb(NEW));
    ELSE
        INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, current)
        VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'created', my_person(), why, to_jsonb(NEW));
    END IF;
    RETURN NEW;
END $$;

DO $$
DECLARE
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('keeper', ''), ('apiary', ''), ('hive', ''), ('colony', ''), ('queen', ''),
        ('colony_hold', ''), ('frame', ''), ('course', ''), ('insert_board', ''), ('membership', ''), ('count_week', ''),
        ('mite_count', 'reason'), ('course_act', 'reason')) AS t (tab, needs)
    LOOP
        EXECUTE format('CREATE TRIGGER history BEFORE INSERT OR UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION keep_history(%L)',
                       entry.tab, entry.needs);
    END LOOP;
END $$;

-- A draft grows freely: its history begins when it is closed. From then on a correction says why.
CREATE FUNCTION keep_visit_history() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'INSERT' THEN
        IF NEW.state = 'closed' THEN
            INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, current)
            VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'created', my_person(), why, to_jsonb(NEW));
        END IF;
        RETURN NEW;
    END IF;
    IF to_jsonb(NEW) = to_jsonb(OLD) THEN
        RETURN NEW;
    END IF;
    NEW.version := OLD.version + 1;
    IF OLD.state = 'draft' THEN
        IF NEW.state <> 'draft' THEN
            INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, current)
            VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'created', my_person(), why, to_jsonb(NEW));
        END IF;
        RETURN NEW;
    END IF;
    IF why = '' THEN
        RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
    VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'amended', my_person(), why, to_jsonb(OLD), to_jsonb(NEW));
    RETURN NEW;
END $$;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON visit FOR EACH ROW EXECUTE FUNCTION keep_visit_history();

CREATE FUNCTION keep_visit_frame_history() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'UPDATE' THEN
        NEW.version := OLD.version + 1;
        NEW.saved_at := clock_timestamp();
    END IF;
    IF (SELECT state FROM visit WHERE id = NEW.visit_id) = 'draft' THEN
        RETURN NEW;
    END IF;
    IF why = '' THEN
        RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
    VALUES (NEW.association_id, TG_TABLE_NAME, NEW.visit_id, CASE TG_OP WHEN 'UPDATE' THEN 'amended' ELSE 'created' END,
            my_person(), why, CASE TG_OP WHEN 'UPDATE' THEN to_jsonb(OLD) END, to_jsonb(NEW));
    RETURN NEW;
END $$;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON visit_frame FOR EACH ROW EXECUTE FUNCTION keep_visit_frame_history();

-- An association is never left without somebody who can invite the next one.
CREATE FUNCTION keep_an_administrator() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
BEGIN
    PERFORM 1 FROM association WHERE id = NEW.association_id FOR UPDATE;
    IF NOT EXISTS (SELECT FROM membership
                   WHERE association_id = NEW.association_id AND role = 'administrator' AND ended_at IS NULL) THEN
        RAISE EXCEPTION 'an association needs an administrator'
            USING ERRCODE = 'check_violation', CONSTRAINT = 'last_administrator';
    END IF;
    RETURN NULL;
END $$;
CREATE TRIGGER last_administrator AFTER UPDATE ON membership FOR EACH ROW
    WHEN (OLD.role = 'administrator' AND OLD.ended_at IS NULL) EXECUTE FUNCTION keep_an_administrator();

REVOKE EXECUTE ON FUNCTION keep_history(), keep_visit_history(), keep_visit_frame_history(), keep_an_administrator() FROM public;
