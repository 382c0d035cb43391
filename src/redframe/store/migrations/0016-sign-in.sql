-- A password is tried in two steps: the attempt is written down before the password is looked at, so that many at once
-- are as many attempts; what came of it is added. A session is opened for an attempt that came out well, or with a link
-- just taken up, and for nobody else. Functions that act as their owner look names up in no folder of another's.

ALTER TABLE sign_in_attempt ADD COLUMN id uuid PRIMARY KEY DEFAULT gen_random_uuid();
DROP INDEX sign_in_attempt_by_email;
CREATE INDEX sign_in_attempt_by_email ON sign_in_attempt (email, origin, at);

DROP FUNCTION sign_in_failures(text, text, interval), sign_in_note(text, text, boolean);

-- Writes an attempt down. No row where too many failed of late for this address from this origin, or from this origin at
-- all; `failed` counts those for the address from anywhere, after which its next one is answered later.
CREATE FUNCTION sign_in_reserve(given_email text, given_origin text, span interval, most_by_both integer, most_by_origin integer)
    RETURNS TABLE (attempt uuid, failed bigint) LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    address text := lower(left(given_email, 254));
    came_from text := left(given_origin, 64);
    since timestamptz := now() - span;
BEGIN
    PERFORM pg_advisory_xact_lock(hashtextextended(came_from, 2));
    DELETE FROM sign_in_attempt WHERE at < now() - interval '1 day';
    IF (SELECT count(*) FROM sign_in_attempt WHERE origin = came_from AND NOT ok AND at > since) >= most_by_origin
       OR (SELECT count(*) FROM sign_in_attempt WHERE email = address AND origin = came_from AND NOT ok AND at > greatest(since,
               (SELECT max(at) FROM sign_in_attempt WHERE email = address AND origin = came_from AND ok))) >= most_by_both THEN
        RETURN;
    END IF;
    RETURN QUERY WITH written AS (
        INSERT INTO sign_in_attempt (email, origin, ok) VALUES (address, came_from, false) RETURNING id)
    SELECT written.id, (SELECT count(*) FROM sign_in_attempt a WHERE a.email = address AND NOT a.ok AND a.at > greatest(since,
                            (SELECT max(b.at) FROM sign_in_attempt b WHERE b.email = address AND b.ok)))
    FROM written;
END $$;

CREATE FUNCTION sign_in_succeeded(attempt uuid) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp
    AS $$ UPDATE sign_in_attempt SET ok = true WHERE id = attempt AND at > now() - interval '5 minutes' $$;

-- True where the session was opened: for a membership of the person whose address was just proved, or for the one that a
-- link just made.
DROP FUNCTION session_open(bytea, text, uuid, interval);
CREATE FUNCTION session_open(given_hash bytea, given_csrf text, given_membership uuid, lasts interval, attempt uuid, link bytea)
    RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    DELETE FROM session WHERE expires_at < now();
    INSERT INTO session (token_hash, csrf_token, membership_id, expires_at)
    SELECT given_hash, given_csrf, m.id, now() + lasts
    FROM membership m JOIN person p ON p.id = m.person_id
    WHERE m.id = given_membership AND m.ended_at IS NULL
    AND (EXISTS (SELECT FROM sign_in_attempt a WHERE a.id = attempt AND a.ok AND a.email = p.email
                 AND a.at > now() - interval '5 minutes')
         OR EXISTS (SELECT FROM invitation i WHERE i.token_hash = link AND i.email = p.email
                    AND i.association_id = m.association_id AND i.accepted_at > now() - interval '1 minute'));
    RETURN FOUND;
END $$;

-- A password is replaced over the one that was checked: not over one that somebody set meanwhile, nor unseen.
DROP FUNCTION my_password_set(text);
CREATE FUNCTION my_password_set(checked_hash text, new_hash text) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    UPDATE person SET password_hash = new_hash WHERE id = my_person() AND password_hash = checked_hash;
    RETURN FOUND;
END $$;

REVOKE EXECUTE ON FUNCTION sign_in_reserve(text, text, interval, integer, integer), sign_in_succeeded(uuid),
    session_open(bytea, text, uuid, interval, uuid, bytea), my_password_set(text, text) FROM public;
GRANT EXECUTE ON FUNCTION sign_in_reserve(text, text, interval, integer, integer), sign_in_succeeded(uuid),
    session_open(bytea, text, uuid, interval, uuid, bytea), my_password_set(text, text) TO redframe_app;

DO $$
DECLARE
    entry record;
BEGIN
    FOR entry IN SELECT p.oid::regprocedure AS name FROM pg_proc p
                 WHERE p.pronamespace = 'public'::regnamespace AND p.prosecdef LOOP
        EXECUTE format('ALTER FUNCTION %s SET search_path = pg_catalog, public, pg_temp', entry.name);
    END LOOP;
    -- Nobody makes tables of their own, not even for a moment.
    EXECUTE format('REVOKE TEMPORARY ON DATABASE %I FROM PUBLIC', current_database());
END $$;
