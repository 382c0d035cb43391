-- Associations, the people who work in them, how they join and how they sign in.
-- Tables are keyed by association, so that row-level security and later sharding follow one column.

CREATE EXTENSION IF NOT EXISTS btree_gist;

CREATE TABLE association (
    id          uuid PRIMARY KEY,
    name        text NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 120),
    timezone    text NOT NULL,
    created_at  timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE keeper (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    name            text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    phone           text NOT NULL DEFAULT '' CHECK (length(phone) <= 40),
    registration    text NOT NULL DEFAULT '' CHECK (length(registration) <= 40),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id)
);
CREATE INDEX keeper_by_association ON keeper (association_id, name);

CREATE TABLE person (
    id             uuid PRIMARY KEY,
    email          text NOT NULL UNIQUE CHECK (email = lower(email) AND length(email) <= 254),
    name           text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    password_hash  text NOT NULL,
    temperature    text NOT NULL DEFAULT 'celsius' CHECK (temperature IN ('celsius', 'fahrenheit')),
    mass           text NOT NULL DEFAULT 'kg' CHECK (mass IN ('kg', 'lb')),
    volume         text NOT NULL DEFAULT 'ml' CHECK (volume IN ('ml', 'cup', 'fl_oz')),
    theme          text NOT NULL DEFAULT 'system' CHECK (theme IN ('system', 'light', 'dark')),
    created_at     timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE role (name text PRIMARY KEY, may_write boolean NOT NULL, is_staff boolean NOT NULL);
INSERT INTO role VALUES
    ('administrator', true, true), ('inspector', true, true), ('mentor', true, true), ('keeper', true, false),
    ('read_only', false, false);

-- A membership ends and is never deleted; one that has ended opens nothing.
CREATE TABLE membership (
    id              uuid PRIMARY KEY,
    person_id       uuid NOT NULL REFERENCES person,
    association_id  uuid NOT NULL REFERENCES association,
    role            text NOT NULL REFERENCES role,
    keeper_id       uuid,
    ended_at        timestamptz,
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (person_id, association_id),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    CHECK ((role = 'keeper') = (keeper_id IS NOT NULL))
);

-- An administrator invites an e-mail address; the link is passed on by whatever way people already use, holds for a
-- while and works once.
CREATE TABLE invitation (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    email           text NOT NULL CHECK (email = lower(email) AND length(email) BETWEEN 3 AND 254),
    role            text NOT NULL REFERENCES role,
    keeper_id       uuid,
    token_hash      bytea NOT NULL UNIQUE,
    created_by      uuid NOT NULL REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    expires_at      timestamptz NOT NULL,
    accepted_at     timestamptz,
    withdrawn_at    timestamptz,
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    CHECK ((role = 'keeper') = (keeper_id IS NOT NULL))
);
CREATE UNIQUE INDEX invitation_open ON invitation (association_id, email)
    WHERE accepted_at IS NULL AND withdrawn_at IS NULL;

CREATE TABLE session (
    token_hash     bytea PRIMARY KEY,
    csrf_token     text NOT NULL,
    membership_id  uuid NOT NULL REFERENCES membership,
    created_at     timestamptz NOT NULL DEFAULT now(),
    seen_at        timestamptz NOT NULL DEFAULT now(),
    expires_at     timestamptz NOT NULL
);
CREATE INDEX session_by_membership ON session (membership_id);

CREATE TABLE sign_in_attempt (
    email   text NOT NULL,
    origin  text NOT NULL,
    at      timestamptz NOT NULL DEFAULT now(),
    ok      boolean NOT NULL
);
CREATE INDEX sign_in_attempt_by_email ON sign_in_attempt (email, at);
CREATE INDEX sign_in_attempt_by_origin ON sign_in_attempt (origin, at);

-- Writes that a device may send twice, accepted once.
CREATE TABLE accepted_write (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    person_id       uuid NOT NULL REFERENCES person,
    kind            text NOT NULL,
    digest          bytea NOT NULL,
    at              timestamptz NOT NULL DEFAULT now()
);

-- The history of records: written by the database for every change, the previous version kept. Nobody can change it.
CREATE TABLE audit (
    seq             bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    association_id  uuid NOT NULL,
    table_name      text NOT NULL,
    record_id       uuid NOT NULL,
    act             text NOT NULL CHECK (act IN ('created', 'amended')),
    at              timestamptz NOT NULL DEFAULT now(),
    by_person       uuid,
    reason          text NOT NULL DEFAULT '',
    previous        jsonb,
    current         jsonb NOT NULL
);
CREATE INDEX audit_by_record ON audit (record_id, seq);
