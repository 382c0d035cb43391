-- Apiaries, and what single ones do otherwise than their association.

CREATE TABLE apiary (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    keeper_id       uuid NOT NULL,
    name            text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    latitude        double precision NOT NULL CHECK (latitude BETWEEN -90 AND 90),
    longitude       double precision NOT NULL CHECK (longitude BETWEEN -180 AND 180),
    elevation_m     integer NOT NULL DEFAULT 0 CHECK (elevation_m BETWEEN -430 AND 6000),
    access_note     text NOT NULL DEFAULT '' CHECK (length(access_note) <= 2000),
    forage_note     text NOT NULL DEFAULT '' CHECK (length(forage_note) <= 2000),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    UNIQUE (association_id, keeper_id, name),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id)
);
CREATE INDEX apiary_by_keeper ON apiary (keeper_id);

-- The latest version counts; NULL: as the association.
CREATE TABLE apiary_policy (
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    version         integer NOT NULL CHECK (version > 0),
    created_at      timestamptz NOT NULL DEFAULT now(),
    created_by      uuid REFERENCES person,
    reason          text NOT NULL DEFAULT '' CHECK (length(reason) <= 400),
    scheme          text,
    scope           text CHECK (scope IN ('whole_apiary', 'single_colony')),
    calendar        jsonb,
    levels          jsonb,
    PRIMARY KEY (apiary_id, version),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);
