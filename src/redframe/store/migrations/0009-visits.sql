-- The visit, frame by frame: boxes that keep their identity while they change places, frames that are somewhere, every
-- move of one, a visit that is a draft until it is closed, and photos.

ALTER TABLE hive
    ADD COLUMN floor text NOT NULL DEFAULT 'solid' CHECK (floor IN ('solid', 'mesh', 'mesh_with_board')),
    ADD COLUMN numbered_from text NOT NULL DEFAULT 'left' CHECK (numbered_from IN ('left', 'right')),
    ADD COLUMN divided_after integer CHECK (divided_after BETWEEN 1 AND 39);   -- two colonies in one body
ALTER TABLE colony ADD COLUMN hive_side text CHECK (hive_side IN ('left', 'right'));

DROP INDEX hive_box_standing;
ALTER TABLE hive_box
    ADD COLUMN id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    ALTER COLUMN frame_format DROP NOT NULL,
    DROP CONSTRAINT hive_box_position_check, ADD CHECK (position BETWEEN 1 AND 24),
    DROP CONSTRAINT hive_box_purpose_check, ADD CHECK (purpose IN ('brood', 'super', 'eke', 'excluder', 'feeder')),
    DROP CONSTRAINT hive_box_frames_check, ADD CHECK (frames BETWEEN 0 AND 40),
    ADD CHECK ((frames = 0) = (frame_format IS NULL)),
    ADD CHECK ((purpose IN ('brood', 'super')) = (frames > 0)),
    ADD UNIQUE (association_id, id),
    ADD CONSTRAINT hive_box_standing EXCLUDE USING btree (hive_id WITH =, position WITH =) WHERE (until IS NULL)
        DEFERRABLE INITIALLY DEFERRED;

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

-- What was found before opening, of each frame, and of the colony: a draft until it is closed.
ALTER TABLE visit
    ADD COLUMN state text NOT NULL DEFAULT 'closed' CHECK (state IN ('draft', 'closed', 'dropped')),
    ADD COLUMN opened_at timestamptz,
    ADD COLUMN closed_at timestamptz,
    ADD COLUMN before jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN before_version integer NOT NULL DEFAULT 0,
    ADD COLUMN after jsonb NOT NULL DEFAULT '{}',
    ADD COLUMN after_version integer NOT NULL DEFAULT 0,
    ADD COLUMN frames_of_bees double precision CHECK (frames_of_bees >= 0),
    ADD COLUMN frames_of_brood double precision CHECK (frames_of_brood >= 0),
    ADD COLUMN capped_cells double precision CHECK (capped_cells >= 0),
    ADD COLUMN stores_kg double precision CHECK (stores_kg >= 0),
    ADD COLUMN temper integer CHECK (temper BETWEEN 1 AND 10),
    ADD COLUMN pattern_empty_pct double precision CHECK (pattern_empty_pct BETWEEN 0 AND 100),
    ADD COLUMN suspicious text[] NOT NULL DEFAULT '{}',
    ADD COLUMN next_visit date,
    ADD UNIQUE (association_id, id);
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
    kept_at         timestamptz NOT NULL DEFAULT clock_timestamp(),
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
    made_at         timestamptz NOT NULL DEFAULT clock_timestamp(),
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
    made_at         timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, visit_id) REFERENCES visit (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
ALTER TABLE photo ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN thumbnail SET STORAGE EXTERNAL;
CREATE INDEX photo_by_visit ON photo (visit_id);

-- A colony on hold: nothing leaves it until somebody who may lifts the hold.
CREATE TABLE colony_hold (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    since           date NOT NULL,
    until           date CHECK (until >= since),
    why             text NOT NULL CHECK (length(why) BETWEEN 3 AND 400),
    lifted_why      text NOT NULL DEFAULT '' CHECK (length(lifted_why) <= 400),
    by_person       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX one_hold_a_colony ON colony_hold (colony_id) WHERE until IS NULL;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON colony_hold FOR EACH ROW EXECUTE FUNCTION keep_trail('');

DO $$
DECLARE
    follows text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('frame', 'apiary_id = ANY ((SELECT my_apiaries())::uuid[])'),
        ('visit_frame', 'colony_id = ANY ((SELECT my_colonies())::uuid[])'),
        ('frame_move', '(from_apiary = ANY ((SELECT my_apiaries())::uuid[]) OR to_apiary = ANY ((SELECT my_apiaries())::uuid[]))'),
        ('photo', 'colony_id = ANY ((SELECT my_colonies())::uuid[])'),
        ('colony_hold', 'colony_id = ANY ((SELECT my_colonies())::uuid[])')) AS t (tab, own)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)', entry.own);
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY made ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('GRANT SELECT, INSERT ON %I TO redframe_app', entry.tab);
    END LOOP;
    -- Moves and photos are never changed; of a hold only its end is.
    FOR entry IN SELECT * FROM (VALUES
        ('frame', 'apiary_id = ANY ((SELECT my_apiaries())::uuid[])'),
        ('visit_frame', 'colony_id = ANY ((SELECT my_colonies())::uuid[])')) AS t (tab, own)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)', entry.own);
        EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('GRANT UPDATE ON %I TO redframe_app', entry.tab);
    END LOOP;
    CREATE POLICY lifted ON colony_hold FOR UPDATE
        USING (association_id = (SELECT my_association()) AND (SELECT my_role()) IN ('administrator', 'inspector'));
    GRANT UPDATE (until, lifted_why) ON colony_hold TO redframe_app;
END $$;

-- A draft grows freely: its trail begins when it is closed. From then on a correction says why.
CREATE FUNCTION keep_visit_trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'INSERT' THEN
        IF NEW.state = 'closed' THEN
            INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, present)
            VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'made', my_person(), why, to_jsonb(NEW));
        END IF;
        RETURN NEW;
    END IF;
    IF to_jsonb(NEW) = to_jsonb(OLD) THEN
        RETURN NEW;
    END IF;
    NEW.version := OLD.version + 1;
    IF OLD.state = 'draft' THEN
        IF NEW.state <> 'draft' THEN
            INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, present)
            VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'made', my_person(), why, to_jsonb(NEW));
        END IF;
        RETURN NEW;
    END IF;
    IF why = '' THEN
        RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, former, present)
    VALUES (NEW.association_id, TG_TABLE_NAME, NEW.id, 'amended', my_person(), why, to_jsonb(OLD), to_jsonb(NEW));
    RETURN NEW;
END $$;
REVOKE EXECUTE ON FUNCTION keep_visit_trail() FROM public;
DROP TRIGGER trail ON visit;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON visit FOR EACH ROW EXECUTE FUNCTION keep_visit_trail();

CREATE FUNCTION keep_visit_frame_trail() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = public AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'UPDATE' THEN
        NEW.version := OLD.version + 1;
        NEW.kept_at := clock_timestamp();
    END IF;
    IF (SELECT state FROM visit WHERE id = NEW.visit_id) = 'draft' THEN
        RETURN NEW;
    END IF;
    IF why = '' THEN
        RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, former, present)
    VALUES (NEW.association_id, TG_TABLE_NAME, NEW.visit_id, CASE TG_OP WHEN 'UPDATE' THEN 'amended' ELSE 'made' END,
            my_person(), why, CASE TG_OP WHEN 'UPDATE' THEN to_jsonb(OLD) END, to_jsonb(NEW));
    RETURN NEW;
END $$;
REVOKE EXECUTE ON FUNCTION keep_visit_frame_trail() FROM public;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON visit_frame FOR EACH ROW EXECUTE FUNCTION keep_visit_frame_trail();
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON frame FOR EACH ROW EXECUTE FUNCTION keep_trail('');
