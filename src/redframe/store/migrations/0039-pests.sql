-- Pests: what was scored when, what was done and when it is looked at again; traps and what was in them; the entrance.
CREATE TABLE pest_check (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    colony_id       uuid,                              -- none: combs in store
    pest            text NOT NULL CHECK (pest ~ '^[a-z_]{1,40}$'),
    seen_on         date NOT NULL,
    score           integer NOT NULL CHECK (score BETWEEN 0 AND 5),
    counted         jsonb NOT NULL DEFAULT '{}' CHECK (length(counted::text) <= 2000),
    answer          jsonb NOT NULL CHECK (length(answer::text) <= 4000),    -- what the score said and asked for there and then
    done            text NOT NULL DEFAULT '' CHECK (length(done) <= 400),
    look_from       date CHECK (look_from >= seen_on),
    look_by         date CHECK (look_by >= look_from),
    disease_by      date CHECK (disease_by >= seen_on),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CONSTRAINT pest_check_days_check CHECK ((look_from IS NULL) = (look_by IS NULL)),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX pest_check_by_colony ON pest_check (colony_id, pest, seen_on DESC) WHERE colony_id IS NOT NULL;
CREATE INDEX pest_check_by_apiary ON pest_check (apiary_id, pest, seen_on DESC);
CREATE INDEX pest_check_ahead ON pest_check (association_id, look_by) WHERE look_by IS NOT NULL AND withdrawn_why = '';

CREATE TABLE pest_trap (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('bar_trap', 'floor_tray', 'cloth', 'wasp_trap')),
    place           text NOT NULL DEFAULT '' CHECK (length(place) <= 120),
    number          integer NOT NULL CHECK (number BETWEEN 1 AND 40),
    placed_on       date NOT NULL,
    removed_on      date CHECK (removed_on >= placed_on),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX pest_trap_by_colony ON pest_trap (colony_id, placed_on DESC);

CREATE TABLE trap_reading (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    trap_id         uuid NOT NULL,
    emptied_on      date NOT NULL,
    caught          integer NOT NULL CHECK (caught BETWEEN 0 AND 100000),
    days            double precision NOT NULL CHECK (days >= 1 AND days <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (trap_id, emptied_on),
    FOREIGN KEY (association_id, trap_id) REFERENCES pest_trap (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);

-- The entrance of a colony as it stands from a day on.
CREATE TABLE entrance_state (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    since           date NOT NULL,
    width_mm        integer CHECK (width_mm BETWEEN 1 AND 420),
    device          text NOT NULL CHECK (device IN ('open', 'reducer', 'guard', 'screen', 'mesh_box', 'shut')),
    mesh_shut       boolean NOT NULL DEFAULT false,
    why             text NOT NULL DEFAULT '' CHECK (length(why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT entrance_state_shut_check CHECK (device <> 'shut' OR width_mm IS NULL),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX entrance_by_colony ON entrance_state (colony_id, since DESC, created_at DESC);

CREATE TRIGGER history BEFORE INSERT OR UPDATE ON pest_check FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON pest_trap FOR EACH ROW EXECUTE FUNCTION keep_history('');

DO $$
DECLARE
    event text;
    follows text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('pest_check', '(colony_id = ANY ((SELECT my_colonies())::uuid[]) OR colony_id IS NULL AND apiary_id = ANY ((SELECT my_apiaries())::uuid[]))', ' AND (colony_id IS NULL OR colony_id IN (SELECT id FROM colony))', true),
        ('pest_trap', 'colony_id = ANY ((SELECT my_colonies())::uuid[])', '', true),
        ('trap_reading', 'colony_id = ANY ((SELECT my_colonies())::uuid[])', ' AND trap_id IN (SELECT id FROM pest_trap)', false),
        ('entrance_state', 'colony_id = ANY ((SELECT my_colonies())::uuid[])', '', false)
        ) AS t (tab, own, checked, amended)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)', entry.own);
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())%s)',
                       entry.tab, follows, entry.checked);
        EXECUTE format('GRANT SELECT, INSERT ON %I TO redframe_app', entry.tab);
        IF entry.amended THEN
            EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
            EXECUTE format('GRANT UPDATE ON %I TO redframe_app', entry.tab);
        END IF;
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(%L)', lower(event), event, entry.tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END, CASE entry.tab WHEN 'pest_check' THEN 'apiary' ELSE 'colony' END);
        END LOOP;
    END LOOP;
END $$;
