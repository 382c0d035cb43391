-- Where somebody is signed in, and what happened to the account: by device, with the last use; a session that nobody uses
-- ends by itself.

ALTER TABLE session
    ADD COLUMN id uuid NOT NULL DEFAULT gen_random_uuid() UNIQUE,
    ADD COLUMN device text NOT NULL DEFAULT '' CHECK (length(device) <= 80),
    ADD COLUMN idle interval NOT NULL DEFAULT '8 days';

CREATE TABLE security_event (
    id         bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    at         timestamptz NOT NULL DEFAULT now(),
    person_id  uuid NOT NULL REFERENCES person,
    kind       text NOT NULL CHECK (kind IN ('signed_in', 'joined', 'wrong_password', 'signed_out', 'signed_out_everywhere',
                                             'session_ended', 'password_changed')),
    origin     text NOT NULL DEFAULT '' CHECK (length(origin) <= 64),
    device     text NOT NULL DEFAULT '' CHECK (length(device) <= 80)
);
CREATE INDEX security_event_by_person ON security_event (person_id, at);
ALTER TABLE security_event ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON security_event FOR SELECT USING (person_id = (SELECT my_person()));
GRANT SELECT ON security_event TO redframe_app;

-- Written by what happens, never by the application's word alone; kept for a year and a little.
CREATE FUNCTION note_security(who uuid, what text, came_from text, used text) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    DELETE FROM security_event WHERE person_id = who AND at < now() - interval '400 days';
    INSERT INTO security_event (person_id, kind, origin, device)
    SELECT who, what, left(came_from, 64), left(used, 80) WHERE who IS NOT NULL $$;

DROP FUNCTION session_open(bytea, text, uuid, interval, uuid, bytea);
CREATE FUNCTION session_open(given_hash bytea, given_csrf text, given_membership uuid, lasts interval, unused interval,
                             attempt uuid, link bytea, given_device text)
    RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    who uuid;
    came_from text := coalesce((SELECT a.origin FROM sign_in_attempt a WHERE a.id = attempt), '');
BEGIN
    DELETE FROM session WHERE expires_at < now() OR seen_at < now() - idle;
    INSERT INTO session (token_hash, csrf_token, membership_id, expires_at, idle, device)
    SELECT given_hash, given_csrf, m.id, now() + lasts, unused, left(given_device, 80)
    FROM membership m JOIN person p ON p.id = m.person_id
    WHERE m.id = given_membership AND m.ended_at IS NULL
    AND (EXISTS (SELECT FROM sign_in_attempt a WHERE a.id = attempt AND a.ok AND a.email = p.email
                 AND a.at > now() - interval '5 minutes')
         OR EXISTS (SELECT FROM invitation i WHERE i.token_hash = link AND i.email = p.email
                    AND i.association_id = m.association_id AND i.accepted_at > now() - interval '1 minute'));
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    SELECT m.person_id INTO who FROM membership m WHERE m.id = given_membership;
    PERFORM note_security(who, CASE WHEN link IS NULL THEN 'signed_in' ELSE 'joined' END, came_from, given_device);
    RETURN true;
END $$;

-- `unseen`: its use was not written down for a while.
DROP FUNCTION session_asking(bytea, text, uuid);
DROP FUNCTION session_lookup(bytea);
CREATE FUNCTION session_lookup(given_hash bytea)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text,
                   timezone text, unseen boolean)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT m.person_id, m.id, m.association_id, m.role, m.keeper_id, s.csrf_token, a.timezone,
           s.seen_at < now() - interval '5 minutes'
    FROM session s JOIN membership m ON m.id = s.membership_id JOIN association a ON a.id = m.association_id
    WHERE s.token_hash = given_hash AND s.expires_at > now() AND s.seen_at > now() - s.idle AND m.ended_at IS NULL $$;
CREATE FUNCTION session_asking(given_hash bytea, shows text, record uuid)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text,
                   timezone text, unseen boolean, scope text, changes bigint)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT s.*, p.scope, (SELECT coalesce(sum(c.n), 0)::bigint FROM change_count c
                          WHERE c.association_id = s.association_id AND c.scope IN (p.scope, 'shared'))
    FROM session_lookup(given_hash) s CROSS JOIN LATERAL (SELECT coalesce((CASE shows
        WHEN 'apiary' THEN (SELECT a.id FROM apiary a WHERE a.id = record)
        WHEN 'colony' THEN (SELECT c.apiary_id FROM colony c WHERE c.id = record)
        WHEN 'visit' THEN (SELECT c.apiary_id FROM visit v JOIN colony c ON c.id = v.colony_id WHERE v.id = record)
        WHEN 'course' THEN (SELECT c.apiary_id FROM course p JOIN colony c ON c.id = p.colony_id WHERE p.id = record)
        END)::text, 'work') AS scope) p $$;

CREATE FUNCTION session_seen(given_hash bytea) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    UPDATE session SET seen_at = now() WHERE token_hash = given_hash AND seen_at > now() - idle $$;

CREATE OR REPLACE FUNCTION session_close(given_hash bytea) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    WITH gone AS (DELETE FROM session WHERE token_hash = given_hash RETURNING membership_id, device)
    SELECT note_security(m.person_id, 'signed_out', '', g.device) FROM gone g JOIN membership m ON m.id = g.membership_id $$;
CREATE OR REPLACE FUNCTION session_close_all() RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT note_security(my_person(), 'signed_out_everywhere', '', '');
    DELETE FROM session WHERE membership_id IN (SELECT id FROM membership WHERE person_id = my_person()) $$;

-- The sessions of the person at work, the latest used first; one of them ended.
CREATE FUNCTION my_sessions(this bytea) RETURNS TABLE (id uuid, device text, opened_at timestamptz, seen_at timestamptz,
                                                       association text, is_this boolean)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT s.id, s.device, s.created_at, s.seen_at, a.name, s.token_hash = this
    FROM session s JOIN membership m ON m.id = s.membership_id JOIN association a ON a.id = m.association_id
    WHERE m.person_id = my_person() AND s.expires_at > now() AND s.seen_at > now() - s.idle ORDER BY s.seen_at DESC $$;
CREATE FUNCTION my_session_end(given uuid) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    used text;
BEGIN
    DELETE FROM session WHERE id = given AND membership_id IN (SELECT m.id FROM membership m WHERE m.person_id = my_person())
        RETURNING device INTO used;
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    PERFORM note_security(my_person(), 'session_ended', '', used);
    RETURN true;
END $$;

-- A password that did not belong to an address that somebody signs in with.
CREATE FUNCTION sign_in_failed(attempt uuid, used text) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT note_security(p.id, 'wrong_password', a.origin, used) FROM sign_in_attempt a JOIN person p ON p.email = a.email
    WHERE a.id = attempt AND NOT a.ok AND a.at > now() - interval '5 minutes' $$;

CREATE OR REPLACE FUNCTION my_password_set(checked_hash text, new_hash text) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    UPDATE person SET password_hash = new_hash WHERE id = my_person() AND password_hash = checked_hash;
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    PERFORM note_security(my_person(), 'password_changed', '', '');
    RETURN true;
END $$;

DO $$
DECLARE
    called text := 'session_open(bytea, text, uuid, interval, interval, uuid, bytea, text), session_lookup(bytea), '
        'session_asking(bytea, text, uuid), session_seen(bytea), my_sessions(bytea), my_session_end(uuid), '
        'sign_in_failed(uuid, text)';
BEGIN
    EXECUTE format('REVOKE EXECUTE ON FUNCTION note_security(uuid, text, text, text), %s FROM public', called);
    EXECUTE format('GRANT EXECUTE ON FUNCTION %s TO redframe_app', called);
END $$;
