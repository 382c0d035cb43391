-- Apiaries, hives with their boxes in order, colonies, queens, lineage, and what a visit found of the colony as a whole.

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

CREATE TABLE hive (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    hive_type       text NOT NULL CHECK (length(hive_type) BETWEEN 1 AND 80),
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);
CREATE INDEX hive_by_apiary ON hive (apiary_id);

CREATE TABLE frame_format (id text PRIMARY KEY, name text NOT NULL, width_mm integer NOT NULL, height_mm integer NOT NULL);
INSERT INTO frame_format VALUES
    ('A_deep', 'deep frame', 448, 232), ('A_medium', 'medium frame', 448, 159), ('A_shallow', 'shallow frame', 448, 137),
    ('A_jumbo', 'jumbo frame', 448, 286), ('B_deep', 'British standard brood', 356, 216),
    ('B_shallow', 'British standard shallow', 356, 140), ('B_extra_deep', 'British 14 x 12 brood', 356, 305);

-- Boxes of a hive from the floor up.
CREATE TABLE hive_box (
    hive_id         uuid NOT NULL,
    association_id  uuid NOT NULL,
    position        integer NOT NULL CHECK (position BETWEEN 1 AND 12),
    purpose         text NOT NULL CHECK (purpose IN ('brood', 'super')),
    frame_format    text NOT NULL REFERENCES frame_format,
    frames          integer NOT NULL CHECK (frames BETWEEN 1 AND 20),
    PRIMARY KEY (hive_id, position),
    FOREIGN KEY (association_id, hive_id) REFERENCES hive (association_id, id)
);

CREATE TABLE colony_state (name text PRIMARY KEY, lives boolean NOT NULL);
INSERT INTO colony_state VALUES ('alive', true), ('queenless', true), ('dead', false), ('merged', false), ('gone', false);

CREATE TABLE colony (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    hive_id         uuid,                     -- two colonies may share one hive body
    label           text NOT NULL CHECK (length(label) BETWEEN 1 AND 24),
    state           text NOT NULL DEFAULT 'alive' REFERENCES colony_state,
    state_since     date NOT NULL,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, hive_id) REFERENCES hive (association_id, id)
);
-- A label names one living colony of an apiary; the dead keep theirs.
CREATE UNIQUE INDEX colony_label ON colony (apiary_id, label) WHERE state IN ('alive', 'queenless');
CREATE INDEX colony_by_apiary ON colony (apiary_id);
CREATE INDEX colony_by_association ON colony (association_id, state);

CREATE TABLE queen (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    year            integer CHECK (year BETWEEN 1950 AND 2200),
    mark_seen       text CHECK (mark_seen IN ('white', 'yellow', 'red', 'green', 'blue')),
    status          text NOT NULL DEFAULT 'mated' CHECK (status IN ('mated', 'virgin', 'caged', 'queenless', 'unknown')),
    since           date NOT NULL,
    until           date CHECK (until >= since),
    laying_since    date,
    release_on      date,
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX queen_in_office ON queen (colony_id) WHERE until IS NULL;
CREATE INDEX queen_by_colony ON queen (colony_id, since);

-- Lineage: whose history is whose. The label may change; the history stays with the colony.
CREATE TABLE colony_event (
    id               uuid PRIMARY KEY,
    association_id   uuid NOT NULL,
    colony_id        uuid NOT NULL,
    kind             text NOT NULL CHECK (kind IN ('started', 'split_from', 'merged_into', 'renumbered', 'moved', 'state')),
    happened_on      date NOT NULL,
    other_colony_id  uuid,
    former           text NOT NULL DEFAULT '',
    present          text NOT NULL DEFAULT '',
    note             text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person        uuid REFERENCES person,
    made_at          timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, other_colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX colony_event_by_colony ON colony_event (colony_id, happened_on);
CREATE INDEX colony_event_by_other ON colony_event (other_colony_id) WHERE other_colony_id IS NOT NULL;

CREATE TABLE visit (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    visited_on      date NOT NULL,
    strength        double precision CHECK (strength > 0 AND strength <= 60),
    strength_unit   text CHECK (strength_unit IN ('frames', 'seams')),
    capped_brood    text NOT NULL DEFAULT 'unknown' CHECK (capped_brood IN ('yes', 'no', 'unknown')),
    eggs_seen       boolean,
    queen_seen      boolean,
    supers_on       boolean,
    fed             boolean,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK ((strength IS NULL) = (strength_unit IS NULL)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX visit_by_colony ON visit (colony_id, visited_on DESC);
