-- How people come to an association and leave it. An administrator invites an e-mail address; the link is passed on by
-- whatever way people already use, holds for a while and works once. Nobody is deleted: a membership ends.

ALTER TABLE membership ADD COLUMN ended_at timestamptz, ADD COLUMN version integer NOT NULL DEFAULT 1;
CREATE POLICY amended ON membership FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT UPDATE (role, keeper_id, ended_at) ON membership TO redframe_app;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON membership FOR EACH ROW EXECUTE FUNCTION keep_trail('');

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

CREATE TABLE invitation (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    email           text NOT NULL CHECK (email = lower(email) AND length(email) BETWEEN 3 AND 254),
    role            text NOT NULL REFERENCES role,
    keeper_id       uuid,
    token_hash      bytea NOT NULL UNIQUE,
    made_by         uuid NOT NULL REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    expires_at      timestamptz NOT NULL,
    accepted_at     timestamptz,
    withdrawn_at    timestamptz,
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    CHECK ((role = 'keeper') = (keeper_id IS NOT NULL))
);
CREATE UNIQUE INDEX invitation_open ON invitation (association_id, email)
    WHERE accepted_at IS NULL AND withdrawn_at IS NULL;
ALTER TABLE invitation ENABLE ROW LEVEL SECURITY;
CREATE POLICY administered ON invitation
    USING (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator');
GRANT SELECT, INSERT ON invitation TO redframe_app;
GRANT UPDATE (token_hash, expires_at, withdrawn_at) ON invitation TO redframe_app;

-- Who holds a link has not signed in yet: these functions alone reach what it opens.
CREATE FUNCTION invitation_lookup(given_hash bytea)
    RETURNS TABLE (association text, role text, keeper text, email text, password_hash text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT a.name, i.role, k.name, i.email, p.password_hash
    FROM invitation i JOIN association a ON a.id = i.association_id
    LEFT JOIN keeper k ON k.id = i.keeper_id LEFT JOIN person p ON p.email = i.email
    WHERE i.token_hash = given_hash AND i.accepted_at IS NULL AND i.withdrawn_at IS NULL AND i.expires_at > now() $$;

-- Makes the person where the address is new, and the membership; no row when the link does not hold any more.
CREATE FUNCTION invitation_accept(given_hash bytea, given_person uuid, given_membership uuid, given_name text, new_password text)
    RETURNS TABLE (membership_id uuid) LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    WITH taken AS (
        UPDATE invitation SET accepted_at = now() WHERE token_hash = given_hash AND accepted_at IS NULL
        AND withdrawn_at IS NULL AND expires_at > now() RETURNING association_id, email, role, keeper_id),
    made AS (
        INSERT INTO person (id, email, name, password_hash) SELECT given_person, email, given_name, new_password FROM taken
        WHERE new_password IS NOT NULL RETURNING id),
    who AS (SELECT id FROM made UNION ALL SELECT p.id FROM person p JOIN taken t ON t.email = p.email)
    INSERT INTO membership AS m (id, person_id, association_id, role, keeper_id)
    SELECT given_membership, who.id, taken.association_id, taken.role, taken.keeper_id FROM taken, who
    ON CONFLICT (person_id, association_id)
        DO UPDATE SET role = excluded.role, keeper_id = excluded.keeper_id, ended_at = NULL
    RETURNING m.id $$;

-- A membership that has ended opens nothing.
CREATE OR REPLACE FUNCTION sign_in_lookup(given_email text) RETURNS TABLE (person_id uuid, password_hash text, membership_id uuid)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT p.id, p.password_hash, m.id FROM person p JOIN membership m ON m.person_id = p.id AND m.ended_at IS NULL
    JOIN association a ON a.id = m.association_id
    WHERE p.email = lower(given_email) ORDER BY a.made_at, a.name LIMIT 1 $$;

CREATE OR REPLACE FUNCTION session_lookup(given_hash bytea)
    RETURNS TABLE (person_id uuid, membership_id uuid, association_id uuid, role text, keeper_id uuid, csrf_token text, timezone text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT m.person_id, m.id, m.association_id, m.role, m.keeper_id, s.csrf_token, a.timezone
    FROM session s JOIN membership m ON m.id = s.membership_id JOIN association a ON a.id = m.association_id
    WHERE s.token_hash = given_hash AND s.expires_at > now() AND m.ended_at IS NULL $$;

CREATE OR REPLACE FUNCTION session_switch(given_hash bytea, to_membership uuid) RETURNS boolean
    LANGUAGE sql SECURITY DEFINER SET search_path = public AS $$
    WITH moved AS (UPDATE session SET membership_id = to_membership WHERE token_hash = given_hash
        AND to_membership IN (SELECT id FROM membership WHERE person_id = my_person() AND ended_at IS NULL) RETURNING 1)
    SELECT EXISTS (SELECT FROM moved) $$;

CREATE OR REPLACE FUNCTION my_memberships() RETURNS TABLE (membership_id uuid, association_name text, role text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT m.id, a.name, m.role FROM membership m JOIN association a ON a.id = m.association_id
    WHERE m.person_id = my_person() AND m.ended_at IS NULL ORDER BY a.made_at, a.name $$;

REVOKE EXECUTE ON FUNCTION keep_an_administrator(), invitation_lookup(bytea), invitation_accept(bytea, uuid, uuid, text, text)
    FROM public;
GRANT EXECUTE ON FUNCTION invitation_lookup(bytea), invitation_accept(bytea, uuid, uuid, text, text) TO redframe_app;
