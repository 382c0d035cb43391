-- Hives with their boxes and frames, colonies, queens, lineage, holds.

CREATE TABLE hive (
    id                uuid PRIMARY KEY,
    association_id    uuid NOT NULL,
    apiary_id         uuid NOT NULL,
    hive_type         text NOT NULL CHECK (length(hive_type) BETWEEN 1 AND 80),
    floor             text NOT NULL DEFAULT 'solid' CHECK (floor IN ('solid', 'mesh', 'mesh_with_board')),
    numbered_from     text NOT NULL DEFAULT 'left' CHECK (numbered_from IN ('left', 'right')),
    divided_after     integer CHECK (divided_after BETWEEN 1 AND 39),    -- two colonies in one body
    boxes_changed_at  timestamptz NOT NULL DEFAULT now(),                -- every change of its boxes is a version
    version           integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);
CREATE INDEX hive_by_apiary ON hive (apiary_id);

CREATE TABLE frame_format (id text PRIMARY KEY, name text NOT NULL, width_mm integer NOT NULL, height_mm integer NOT NULL);
INSERT INTO frame_format VALUES
    ('A_deep', 'deep frame', 448, 232), ('A_medium', 'medium frame', 448, 159), ('A_shallow', 'shallow frame', 448, 137),
    ('A_jumbo', 'jumbo frame', 448, 286), ('B_deep', 'British standard brood', 356, 216),
    ('B_shallow', 'British standard shallow', 356, 140), ('B_extra_deep', 'British 14 x 12 brood', 356, 305);

-- Boxes from the floor up. One that is taken off keeps the days on which it stood there, so that a count or a dose of last
-- season can be read against the hive of last season; one that stays may change places in the stack.
CREATE TABLE hive_box (
    id              uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    association_id  uuid NOT NULL,
    hive_id         uuid NOT NULL,
    position        integer NOT NULL CHECK (position BETWEEN 1 AND 24),
    purpose         text NOT NULL CHECK (purpose IN ('brood', 'super', 'eke', 'excluder', 'feeder')),
    frame_format    text REFERENCES frame_format,
    frames          integer NOT NULL CHECK (frames BETWEEN 0 AND 40),
    since           date NOT NULL,
    until           date CHECK (until >= since),
    UNIQUE (association_id, id),
    CHECK ((frames = 0) = (frame_format IS NULL)),
    CHECK ((purpose IN ('brood', 'super')) = (frames > 0)),
    FOREIGN KEY (association_id, hive_id) REFERENCES hive (association_id, id),
    CONSTRAINT one_box_a_position EXCLUDE USING btree (hive_id WITH =, position WITH =) WHERE (until IS NULL)
        DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX hive_box_by_hive ON hive_box (hive_id, since);

-- States with their properties; `core/colonies/states.py` holds the same table, and a test that the two agree.
CREATE TABLE colony_state (
    name       text PRIMARY KEY,
    is_living  boolean NOT NULL,
    is_lost    boolean NOT NULL,             -- died or disappeared: its combs stay until foulbrood is excluded
    UNIQUE (name, is_living)
);
INSERT INTO colony_state VALUES
    ('alive', true, false), ('queenless', true, false), ('dead', false, true), ('merged', false, false), ('gone', false, true);

CREATE TABLE colony (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    hive_id         uuid,                     -- two colonies may share one hive body
    hive_side       text CHECK (hive_side IN ('left', 'right')),
    label           text NOT NULL CHECK (length(label) BETWEEN 1 AND 24),
    state           text NOT NULL DEFAULT 'alive',
    is_living       boolean NOT NULL DEFAULT true,    -- follows the state
    state_since     date NOT NULL,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (state, is_living) REFERENCES colony_state (name, is_living),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, hive_id) REFERENCES hive (association_id, id)
);
-- A label names one living colony of an apiary; the dead keep theirs.
CREATE UNIQUE INDEX colony_label ON colony (apiary_id, label) WHERE is_living;
CREATE INDEX colony_by_apiary ON colony (apiary_id);
CREATE INDEX colony_by_association ON colony (association_id) WHERE is_living;
CREATE INDEX colony_by_hive ON colony (hive_id) WHERE hive_id IS NOT NULL;

CREATE FUNCTION follow_colony_state() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.is_living := (SELECT is_living FROM colony_state WHERE name = NEW.state);
    RETURN NEW;
END $$;
-- The name sorts before that of the history, which writes down what this one settled.
CREATE TRIGGER follow_state BEFORE INSERT OR UPDATE OF state ON colony FOR EACH ROW EXECUTE FUNCTION follow_colony_state();

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
CREATE UNIQUE INDEX queen_present ON queen (colony_id) WHERE until IS NULL;
CREATE INDEX queen_by_colony ON queen (colony_id, since);

-- Lineage: whose history is whose. The label may change; the history stays with the colony.
CREATE TABLE colony_event (
    id               uuid PRIMARY KEY,
    association_id   uuid NOT NULL,
    colony_id        uuid NOT NULL,
    kind             text NOT NULL CHECK (kind IN ('started', 'split_from', 'merged_into', 'renumbered', 'moved', 'state')),
    happened_on      date NOT NULL,
    other_colony_id  uuid,
    previous         text NOT NULL DEFAULT '',
    previous_apiary  uuid,
    rule             text NOT NULL DEFAULT '',         -- a hold that was set aside for it, and why
    override_why     text NOT NULL DEFAULT '' CHECK (length(override_why) <= 400),
    current          text NOT NULL DEFAULT '',
    note             text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person        uuid REFERENCES person,
    created_at       timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, other_colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX colony_event_by_colony ON colony_event (colony_id, happened_on);
CREATE INDEX colony_event_by_other ON colony_event (other_colony_id) WHERE other_colony_id IS NOT NULL;

-- A colony on hold: until it is lifted, only what `core/colonies/holds.py` allows is done with it.
CREATE TABLE colony_hold (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('notifiable', 'other')),
    since           date NOT NULL,
    until           date CHECK (until >= since),
    why             text NOT NULL CHECK (length(why) BETWEEN 3 AND 400),
    lifted_why      text NOT NULL DEFAULT '' CHECK (length(lifted_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX one_hold_a_colony ON colony_hold (colony_id) WHERE until IS NULL;

-- A frame hangs in a slot of a box, counted from the left wall as seen from behind, or it is away.
CREATE TABLE frame (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,           -- where it hangs, or hung last
    kind            text NOT NULL DEFAULT 'comb' CHECK (kind IN ('comb', 'foundation', 'drone_comb', 'feeder', 'dummy')),
    frame_format    text NOT NULL REFERENCES frame_format,
    comb_year       integer CHECK (comb_year BETWEEN 1950 AND 2200),
    box_id          uuid,
    slot            integer CHECK (slot BETWEEN 1 AND 40),
    away            text CHECK (away IN ('store', 'freezer', 'melted', 'burned')),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    CHECK ((box_id IS NULL) = (away IS NOT NULL)),
    CHECK ((box_id IS NULL) = (slot IS NULL)),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, box_id) REFERENCES hive_box (association_id, id),
    CONSTRAINT one_frame_a_slot EXCLUDE USING btree (box_id WITH =, slot WITH =) WHERE (box_id IS NOT NULL)
        DEFERRABLE INITIALLY DEFERRED
);
CREATE INDEX frame_by_apiary ON frame (apiary_id) WHERE box_id IS NULL;
