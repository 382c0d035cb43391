-- Associations, the people who work in them, and how they sign in.
-- Tables are keyed by association, so that row-level security and later sharding follow one column.

CREATE EXTENSION IF NOT EXISTS btree_gist;

CREATE TABLE association (
    id          uuid PRIMARY KEY,
    name        text NOT NULL UNIQUE CHECK (length(name) BETWEEN 1 AND 120),
    timezone    text NOT NULL,
    made_at     timestamptz NOT NULL DEFAULT now()
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
    made_at        timestamptz NOT NULL DEFAULT now()
);

CREATE TABLE role (name text PRIMARY KEY);
INSERT INTO role VALUES ('administrator'), ('inspector'), ('mentor'), ('keeper'), ('read_only');

CREATE TABLE membership (
    id              uuid PRIMARY KEY,
    person_id       uuid NOT NULL REFERENCES person,
    association_id  uuid NOT NULL REFERENCES association,
    role            text NOT NULL REFERENCES role,
    keeper_id       uuid,
    UNIQUE (person_id, association_id),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    CHECK ((role = 'keeper') = (keeper_id IS NOT NULL))
);

CREATE TABLE session (
    token_hash     bytea PRIMARY KEY,
    csrf_token     text NOT NULL,
    membership_id  uuid NOT NULL REFERENCES membership,
    made_at        timestamptz NOT NULL DEFAULT now(),
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

-- What an association judges and treats by. A change is a new version; decisions keep the version they were taken under.
CREATE TABLE policy (
    association_id   uuid NOT NULL REFERENCES association,
    version          integer NOT NULL CHECK (version > 0),
    made_at          timestamptz NOT NULL DEFAULT now(),
    made_by          uuid REFERENCES person,
    school           text NOT NULL,
    threshold_basis  text NOT NULL DEFAULT 'corrected' CHECK (threshold_basis IN ('corrected', 'as_counted')),
    scope            text NOT NULL DEFAULT 'whole_apiary' CHECK (scope IN ('whole_apiary', 'single_colony')),
    calendar         jsonb NOT NULL,
    treatment_rules  jsonb NOT NULL DEFAULT '{}',
    PRIMARY KEY (association_id, version)
);
