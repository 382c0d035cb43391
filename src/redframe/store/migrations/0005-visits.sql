-- Visits: what was found before opening, of each frame, and of the colony; a draft until it is closed. Photos, and every
-- move of a frame.

CREATE TABLE visit (
    id                 uuid PRIMARY KEY,
    association_id     uuid NOT NULL,
    colony_id          uuid NOT NULL,
    visited_on         date NOT NULL,
    state              text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'closed', 'dropped')),
    opened_at          timestamptz,
    closed_at          timestamptz,
    before             jsonb NOT NULL DEFAULT '{}',
    before_version     integer NOT NULL DEFAULT 0,
    after              jsonb NOT NULL DEFAULT '{}',
    after_version      integer NOT NULL DEFAULT 0,
    -- The hive, the label, the apiary and the keeper of that day, kept when the visit is closed.
    place              jsonb,
    -- What lists, options and trends read, from before, after and frames.
    strength           double precision CHECK (strength >= 0 AND strength <= 60),
    strength_unit      text CHECK (strength_unit IN ('frames', 'seams')),
    capped_brood       text NOT NULL DEFAULT 'unknown' CHECK (capped_brood IN ('yes', 'no', 'unknown')),
    eggs_seen          boolean,
    queen_seen         boolean,
    supers_on          boolean,
    fed                boolean,
    frames_of_bees     double precision CHECK (frames_of_bees >= 0),
    seams_of_bees      double precision CHECK (seams_of_bees >= 0),
    frames_of_brood    double precision CHECK (frames_of_brood >= 0),
    capped_cells       double precision CHECK (capped_cells >= 0),
    stores_kg          double precision CHECK (stores_kg >= 0),
    temper             integer CHECK (temper BETWEEN 1 AND 10),
    pattern_empty_pct  double precision CHECK (pattern_empty_pct BETWEEN 0 AND 100),
    suspicious         text[] NOT NULL DEFAULT '{}',
    next_visit         date,
    note               text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person          uuid REFERENCES person,
    created_at         timestamptz NOT NULL DEFAULT now(),
    version            integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    CHECK ((strength IS NULL) = (strength_unit IS NULL)),
    CHECK (state <> 'closed' OR place IS NOT NULL),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX visit_by_colony ON visit (colony_id, visited_on DESC);
CREATE UNIQUE INDEX one_draft_a_colony ON visit (colony_id) WHERE state = 'draft';
CREATE INDEX visit_ahead ON visit (association_id, next_visit) WHERE next_visit IS NOT NULL;

CREATE TABLE visit_frame (
    visit_id        uuid NOT NULL,
    box_id          uuid NOT NULL,
    slot            integer NOT NULL CHECK (slot BETWEEN 1 AND 40),
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    frame_id        uuid,
    record          jsonb NOT NULL,
    version         integer NOT NULL DEFAULT 1,
    by_person       uuid REFERENCES person,
    saved_at        timestamptz NOT NULL DEFAULT clock_timestamp(),
    PRIMARY KEY (visit_id, box_id, slot),
    FOREIGN KEY (association_id, visit_id) REFERENCES visit (association_id, id),
    FOREIGN KEY (association_id, box_id) REFERENCES hive_box (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);

-- Every move of a frame, for tracing: one row a frame, two for a swap.
CREATE TABLE frame_move (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    act_id          uuid NOT NULL,
    frame_id        uuid NOT NULL,
    visit_id        uuid,
    moved_on        date NOT NULL,
    from_apiary     uuid NOT NULL,
    from_colony     uuid,
    from_box        uuid,
    from_slot       integer,
    from_away       text,
    to_apiary       uuid NOT NULL,
    to_colony       uuid,
    to_box          uuid,
    to_slot         integer,
    to_away         text,
    rule            text NOT NULL DEFAULT '',
    override_why    text NOT NULL DEFAULT '' CHECK (length(override_why) <= 400),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT clock_timestamp(),
    CHECK ((rule = '') = (override_why = '')),
    FOREIGN KEY (association_id, frame_id) REFERENCES frame (association_id, id),
    FOREIGN KEY (association_id, visit_id) REFERENCES visit (association_id, id),
    FOREIGN KEY (association_id, from_apiary) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, to_apiary) REFERENCES apiary (association_id, id)
);
CREATE INDEX frame_move_by_frame ON frame_move (frame_id, moved_on);
CREATE INDEX frame_move_from ON frame_move (from_colony, moved_on) WHERE from_colony IS NOT NULL;
CREATE INDEX frame_move_to ON frame_move (to_colony, moved_on) WHERE to_colony IS NOT NULL;

-- Photos lie in the database: one backup, one guard, gone or kept with their visit. They are made small before.
CREATE TABLE photo (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    visit_id        uuid NOT NULL,
    box_id          uuid,
    slot            integer,
    sign            text NOT NULL DEFAULT '' CHECK (length(sign) <= 40),
    caption         text NOT NULL DEFAULT '' CHECK (length(caption) <= 400),
    width           integer NOT NULL CHECK (width BETWEEN 1 AND 4096),
    height          integer NOT NULL CHECK (height BETWEEN 1 AND 4096),
    picture         bytea NOT NULL CHECK (length(picture) <= 4000000),
    thumbnail       bytea NOT NULL CHECK (length(thumbnail) <= 200000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, visit_id) REFERENCES visit (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
ALTER TABLE photo ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN thumbnail SET STORAGE EXTERNAL;
CREATE INDEX photo_by_visit ON photo (visit_id);
