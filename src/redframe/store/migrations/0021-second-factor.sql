-- A second factor: six figures that change twice a minute, and codes for the day on which the device is lost. An attempt
-- whose password was right is `proved`; it came out well (`ok`) once the second factor was shown as well, where there is
-- one. Until then it counts as failed, so that figures are not tried out either.

CREATE TABLE second_factor (
    person_id     uuid PRIMARY KEY REFERENCES person,
    secret        text NOT NULL CHECK (length(secret) BETWEEN 16 AND 64),
    confirmed_at  timestamptz,
    last_step     bigint NOT NULL DEFAULT 0       -- half minutes since 1970: none is taken twice
);
ALTER TABLE second_factor ENABLE ROW LEVEL SECURITY;

CREATE TABLE recovery_code (
    person_id  uuid NOT NULL REFERENCES person,
    code_hash  bytea NOT NULL,
    used_at    timestamptz,
    PRIMARY KEY (person_id, code_hash)
);
ALTER TABLE recovery_code ENABLE ROW LEVEL SECURITY;

ALTER TABLE sign_in_attempt ADD COLUMN proved boolean NOT NULL DEFAULT false;

ALTER TABLE security_event DROP CONSTRAINT security_event_kind_check;
ALTER TABLE security_event ADD CONSTRAINT security_event_kind_check CHECK (kind IN (
    'signed_in', 'joined', 'wrong_password', 'wrong_code', 'signed_out', 'signed_out_everywhere', 'session_ended',
    'password_changed', 'second_factor_on', 'second_factor_off', 'recovery_code_used', 'recovery_codes_made'));

CREATE FUNCTION has_second_factor(who uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp
    AS $$ SELECT EXISTS (SELECT FROM second_factor f WHERE f.person_id = who AND f.confirmed_at IS NOT NULL) $$;

-- The password of an attempt was right. True where that is enough.
DROP FUNCTION sign_in_succeeded(uuid);
CREATE FUNCTION sign_in_proved(attempt uuid) RETURNS boolean LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    UPDATE sign_in_attempt a SET proved = true,
           ok = NOT coalesce((SELECT has_second_factor(p.id) FROM person p WHERE p.email = a.email), false)
    WHERE a.id = attempt AND a.at > now() - interval '5 minutes' RETURNING a.ok $$;

-- The same for somebody who is at work already, and has shown all there is to show.
CREATE FUNCTION my_attempt_proved(attempt uuid) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    UPDATE sign_in_attempt SET proved = true, ok = true
    WHERE id = attempt AND email = (SELECT p.email FROM person p WHERE p.id = my_person()) $$;

-- By what the second factor of an attempt is known, once its password was right.
CREATE FUNCTION second_factor_of(attempt uuid) RETURNS TABLE (person_id uuid, secret text, last_step bigint)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT f.person_id, f.secret, f.last_step FROM sign_in_attempt a JOIN person p ON p.email = a.email
    JOIN second_factor f ON f.person_id = p.id
    WHERE a.id = attempt AND a.proved AND a.at > now() - interval '5 minutes' AND f.confirmed_at IS NOT NULL $$;
CREATE FUNCTION second_factor_shown(attempt uuid, step bigint) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    UPDATE second_factor f SET last_step = step FROM second_factor_of(attempt) o
    WHERE f.person_id = o.person_id AND f.last_step < step;
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    UPDATE sign_in_attempt SET ok = true WHERE id = attempt;
    RETURN true;
END $$;
CREATE FUNCTION recovery_code_shown(attempt uuid, given_hash bytea, used text) RETURNS boolean LANGUAGE plpgsql
    SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    who uuid;
BEGIN
    UPDATE recovery_code c SET used_at = now() FROM second_factor_of(attempt) o
    WHERE c.person_id = o.person_id AND c.code_hash = given_hash AND c.used_at IS NULL RETURNING c.person_id INTO who;
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    UPDATE sign_in_attempt SET ok = true WHERE id = attempt;
    PERFORM note_security(who, 'recovery_code_used', (SELECT a.origin FROM sign_in_attempt a WHERE a.id = attempt), used);
    RETURN true;
END $$;

-- What did not belong to an address that somebody signs in with: the password or the code.
DROP FUNCTION sign_in_failed(uuid, text);
CREATE FUNCTION sign_in_failed(attempt uuid, used text) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT note_security(p.id, CASE WHEN a.proved THEN 'wrong_code' ELSE 'wrong_password' END, a.origin, used)
    FROM sign_in_attempt a JOIN person p ON p.email = a.email
    WHERE a.id = attempt AND NOT a.ok AND a.at > now() - interval '5 minutes' $$;

-- With a link just taken up a session is opened for who has no second factor; who has one shows it in an attempt.
CREATE OR REPLACE FUNCTION session_open(given_hash bytea, given_csrf text, given_membership uuid, lasts interval,
                                        unused interval, attempt uuid, link bytea, given_device text)
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
         OR (NOT has_second_factor(p.id)
             AND EXISTS (SELECT FROM invitation i WHERE i.token_hash = link AND i.email = p.email
                         AND i.association_id = m.association_id AND i.accepted_at > now() - interval '1 minute')));
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    SELECT m.person_id INTO who FROM membership m WHERE m.id = given_membership;
    PERFORM note_security(who, CASE WHEN link IS NULL THEN 'signed_in' ELSE 'joined' END, came_from, given_device);
    RETURN true;
END $$;

-- The second factor of the person at work: whether it is on, since when, and how many recovery codes are left.
CREATE FUNCTION my_second_factor() RETURNS TABLE (since timestamptz, codes_left bigint) LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT f.confirmed_at, (SELECT count(*) FROM recovery_code c WHERE c.person_id = f.person_id AND c.used_at IS NULL)
    FROM second_factor f WHERE f.person_id = my_person() AND f.confirmed_at IS NOT NULL $$;
-- A new secret, until it is confirmed by what follows from it; one that is on stays as it is.
CREATE FUNCTION my_second_factor_begin(given_secret text) RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    INSERT INTO second_factor AS f (person_id, secret) VALUES (my_person(), given_secret)
    ON CONFLICT (person_id) DO UPDATE SET secret = excluded.secret, last_step = 0 WHERE f.confirmed_at IS NULL;
    RETURN FOUND;
END $$;
CREATE FUNCTION my_second_factor_begun() RETURNS text LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp
    AS $$ SELECT secret FROM second_factor WHERE person_id = my_person() AND confirmed_at IS NULL $$;
CREATE FUNCTION my_recovery_codes_set(code_hashes bytea[]) RETURNS void LANGUAGE sql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    DELETE FROM recovery_code WHERE person_id = my_person();
    INSERT INTO recovery_code (person_id, code_hash) SELECT my_person(), unnest(code_hashes);
    SELECT note_security(my_person(), 'recovery_codes_made', '', '') $$;
CREATE FUNCTION my_second_factor_confirm(checked_secret text, step bigint, code_hashes bytea[]) RETURNS boolean
    LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    UPDATE second_factor SET confirmed_at = now(), last_step = step
    WHERE person_id = my_person() AND secret = checked_secret AND confirmed_at IS NULL;
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    PERFORM note_security(my_person(), 'second_factor_on', '', '');
    PERFORM my_recovery_codes_set(code_hashes);
    RETURN true;
END $$;
CREATE FUNCTION my_second_factor_end() RETURNS boolean LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    DELETE FROM recovery_code WHERE person_id = my_person();
    DELETE FROM second_factor WHERE person_id = my_person();
    IF NOT FOUND THEN
        RETURN false;
    END IF;
    PERFORM note_security(my_person(), 'second_factor_off', '', '');
    RETURN true;
END $$;

DO $$
DECLARE
    called text := 'sign_in_proved(uuid), my_attempt_proved(uuid), second_factor_of(uuid), second_factor_shown(uuid, bigint), '
        'recovery_code_shown(uuid, bytea, text), sign_in_failed(uuid, text), my_second_factor(), '
        'my_second_factor_begin(text), my_second_factor_begun(), my_recovery_codes_set(bytea[]), '
        'my_second_factor_confirm(text, bigint, bytea[]), my_second_factor_end()';
BEGIN
    EXECUTE format('REVOKE EXECUTE ON FUNCTION has_second_factor(uuid), %s FROM public', called);
    EXECUTE format('GRANT EXECUTE ON FUNCTION %s TO redframe_app', called);
END $$;
