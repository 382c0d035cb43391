-- Who may see and write what, and the trail of every change. Held by the database, not by the application's good will.

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
    AS $$ SELECT my_role() IN ('administrator', 'inspector', 'mentor', 'keeper') $$;
CREATE FUNCTION i_keep_the_house() RETURNS boolean LANGUAGE sql STABLE PARALLEL SAFE
    AS $$ SELECT my_role() IN ('administrator', 'inspector', 'mentor') $$;

GRANT USAGE ON SCHEMA public TO redframe_app;
GRANT SELECT ON course_record, role, level, colony_state, course_state, frame_format TO redframe_app;

ALTER TABLE association ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON association FOR SELECT USING (id = (SELECT my_association()));
GRANT SELECT ON association TO redframe_app;

ALTER TABLE policy ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON policy FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY made ON policy FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT, INSERT ON policy TO redframe_app;

ALTER TABLE keeper ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON keeper FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR id = (SELECT my_keeper())));
CREATE POLICY made ON keeper FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY amended ON keeper FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE ON keeper TO redframe_app;

ALTER TABLE apiary ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON apiary FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
CREATE POLICY made ON apiary FOR INSERT WITH CHECK (association_id = (SELECT my_association())
    AND (SELECT i_may_write()) AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
CREATE POLICY amended ON apiary FOR UPDATE USING (association_id = (SELECT my_association())
    AND (SELECT i_may_write()) AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
GRANT SELECT, INSERT, UPDATE ON apiary TO redframe_app;

-- Everything below an apiary follows it; everything about a colony follows the colony.
DO $$
DECLARE
    follows text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('hive', 'apiary_id IN (SELECT id FROM apiary)'), ('colony', 'apiary_id IN (SELECT id FROM apiary)'),
        ('hive_box', 'hive_id IN (SELECT id FROM hive)'), ('queen', 'colony_id IN (SELECT id FROM colony)'),
        ('colony_event', 'colony_id IN (SELECT id FROM colony)'), ('visit', 'colony_id IN (SELECT id FROM colony)'),
        ('mite_count', 'colony_id IN (SELECT id FROM colony)'), ('count_reading', 'colony_id IN (SELECT id FROM colony)'),
        ('outlook', 'colony_id IN (SELECT id FROM colony)'), ('standing', 'colony_id IN (SELECT id FROM colony)'),
        ('course', 'colony_id IN (SELECT id FROM colony)'), ('course_step', 'course_id IN (SELECT id FROM course)'),
        ('course_act', 'course_id IN (SELECT id FROM course)')) AS t (tab, own)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)', entry.own);
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY made ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('GRANT SELECT, INSERT, UPDATE ON %I TO redframe_app', entry.tab);
    END LOOP;
    -- Derived rows and the boxes of a hive are laid anew; nothing that was recorded can be deleted.
    FOR entry IN SELECT * FROM (VALUES ('standing'), ('outlook'), ('count_reading'), ('hive_box'), ('course_step')) AS t (tab)
    LOOP
        EXECUTE format('CREATE POLICY relaid ON %I FOR DELETE USING (association_id = (SELECT my_association()) AND (SELECT i_may_write()))', entry.tab);
        EXECUTE format('GRANT DELETE ON %I TO redframe_app', entry.tab);
    END LOOP;
END $$;

ALTER TABLE accepted_write ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON accepted_write USING (association_id = (SELECT my_association()) AND person_id = (SELECT my_person()));
GRANT SELECT, INSERT ON accepted_write TO redframe_app;

ALTER TABLE person ENABLE ROW LEVEL SECURITY;
CREATE POLICY colleagues ON person FOR SELECT USING (id = (SELECT my_person()) OR ((SELECT my_role()) <> 'keeper'
    AND id IN (SELECT person_id FROM membership WHERE association_id = (SELECT my_association()))));
CREATE POLICY myself ON person FOR UPDATE USING (id = (SELECT my_person()));
GRANT SELECT (id, email, name, temperature, mass, volume, theme) ON person TO redframe_app;
GRANT UPDATE (name, temperature, mass, volume, theme) ON person TO redframe_app;

ALTER TABLE membership ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON membership FOR SELECT
    USING (association_id = (SELECT my_association()) OR person_id = (SELECT my_person()));
GRANT SELECT ON membership TO redframe_app;

-- Who wrote a record: its name alone, also for a keeper, who sees no list of people.
CREATE FUNCTION name_of(who uuid) RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public
    AS $$ SELECT p.name FROM person p WHERE p.id = who
          AND EXISTS (SELECT FROM membership m WHERE m.person_id = who AND m.association_id = my_association()) $$;

-- Signing in happens before anyone is known: only these functions reach passwords and sessions.
CREATE FUNCTION sign_in_lookup(given_email text) RETURNS TABLE (person_id uuid, password_hash text, membership_id uuid)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT p.id, p.password_hash, m.id FROM person p JOIN membership m ON m.person_id = p.id
    JOIN association a ON a.id = m.association_id
    WHERE p.email = lower(given_email) ORDER BY a.made_at, a.name LIMIT 1 $$;

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
    WHERE s.token_hash = given_hash AND s.expires_at > now() $$;

CREATE FUNCTION session_close(given_hash bytea) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public
    AS $$ DELETE FROM session WHERE token_hash = given_hash $$;

CREATE FUNCTION session_close_all() RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    DELETE FROM session WHERE membership_id IN (SELECT id FROM membership WHERE person_id = my_person()) $$;

CREATE FUNCTION session_switch(given_hash bytea, to_membership uuid) RETURNS boolean
    LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    WITH moved AS (UPDATE session SET membership_id = to_membership WHERE token_hash = given_hash
        AND to_membership IN (SELECT id FROM membership WHERE person_id = my_person()) RETURNING 1)
    SELECT EXISTS (SELECT FROM moved) $$;

CREATE FUNCTION my_password_hash() RETURNS text LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public
    AS $$ SELECT password_hash FROM person WHERE id = my_person() $$;
CREATE FUNCTION my_password_set(new_hash text) RETURNS void LANGUAGE sql SECURITY DEFINER SET search_path = public
    AS $$ UPDATE person SET password_hash = new_hash WHERE id = my_person() $$;
CREATE FUNCTION my_memberships() RETURNS TABLE (membership_id uuid, association_name text, role text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT m.id, a.name, m.role FROM membership m JOIN association a ON a.id = m.association_id
    WHERE m.person_id = my_person() ORDER BY a.made_at, a.name $$;

REVOKE EXECUTE ON ALL FUNCTIONS IN SCHEMA public FROM public;
GRANT EXECUTE ON ALL FUNCTIONS IN SCHEMA public TO redframe_app;

-- The trail: written by the database for every change of a record, former version kept. Nobody can change it.
CREATE TABLE audit (
    seq             bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    association_id  uuid NOT NULL,
    table_name      text NOT NULL,
    record_id       uuid NOT NULL,
    act             text NOT NULL CHECK (act IN ('made', 'amended')),
    at              timestamptz NOT NULL DEFAULT now(),
    by_person       uuid,
    reason          text NOT NULL DEFAULT '',
    former          jsonb,
    present         jsonb NOT NULL
);
CREATE INDEX audit_by_record ON audit (record_id, seq);
ALTER TABLE audit ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON audit FOR SELECT USING (association_id = (SELECT my_association()) AND (SELECT my_role()) <> 'keeper'
    OR association_id = (SELECT my_association()) AND present ->> 'colony_id' IN (SELECT id::text FROM colony));
GRANT SELECT ON audit TO redframe_app;

CREATE FUNCTION keep_trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
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
        INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, former, present)
        VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'amended', my_person(), why, to_jsonb(OLD), to_jsonb(NEW));
    ELSE
        INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, present)
        VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'made', my_person(), why, to_jsonb(NEW));
    END IF;
    RETURN NEW;
END $$;
REVOKE EXECUTE ON FUNCTION keep_trail() FROM public;

DO $$
DECLARE
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('keeper', ''), ('apiary', ''), ('colony', ''), ('queen', ''), ('course', ''),
        ('visit', 'reason'), ('mite_count', 'reason'), ('course_act', 'reason')) AS t (tab, needs)
    LOOP
        EXECUTE format('CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON %I FOR EACH ROW EXECUTE FUNCTION keep_trail(%L)',
                       entry.tab, entry.needs);
    END LOOP;
END $$;
