-- Dead colonies: what was found at each step of the walk, a draft until it is closed; photos of a step; that foulbrood was
-- excluded; and where each comb and box goes.
CREATE TABLE deadout (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    state           text NOT NULL DEFAULT 'draft' CHECK (state IN ('draft', 'closed', 'dropped')),
    found_on        date NOT NULL,
    examined_on     date NOT NULL CHECK (examined_on >= found_on),
    opened_at       timestamptz NOT NULL,
    closed_at       timestamptz,
    -- The place of that day, the colony's record and what the findings came to, kept when it is closed.
    kept            jsonb,
    -- What lists and reports read of it: the cause that settles it (none where it cannot be told), the chain, and whether
    -- the record shows what a timely act would have met.
    cause           text CHECK (cause ~ '^[a-z_]{1,40}$'),
    chain           text[] NOT NULL DEFAULT '{}' CHECK (cardinality(chain) <= 20),
    was_avoidable   boolean,
    is_complete     boolean NOT NULL DEFAULT false,    -- every comb read for scale, and remains drawn out
    is_suspect      boolean NOT NULL DEFAULT false,
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    CONSTRAINT deadout_kept_check CHECK ((state = 'closed') = (kept IS NOT NULL) AND (state = 'closed') = (closed_at IS NOT NULL)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX one_deadout_a_colony ON deadout (colony_id) WHERE state <> 'dropped';
CREATE INDEX deadout_by_day ON deadout (association_id, found_on DESC);

CREATE TABLE deadout_step (
    deadout_id      uuid NOT NULL,
    step            text NOT NULL CHECK (step IN ('shut', 'outside', 'floor', 'lid', 'cluster', 'queen', 'heads', 'stores',
                                                  'brood', 'combs', 'cells', 'wash', 'record')),
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    record          jsonb NOT NULL CHECK (length(record::text) <= 60000),
    version         integer NOT NULL DEFAULT 1,
    by_person       uuid REFERENCES person,
    saved_at        timestamptz NOT NULL DEFAULT clock_timestamp(),
    PRIMARY KEY (deadout_id, step),
    FOREIGN KEY (association_id, deadout_id) REFERENCES deadout (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);

CREATE TABLE deadout_photo (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    deadout_id      uuid NOT NULL,
    step            text NOT NULL CHECK (step ~ '^[a-z]{1,20}$'),
    caption         text NOT NULL DEFAULT '' CHECK (length(caption) <= 400),
    width           integer NOT NULL CHECK (width BETWEEN 1 AND 4096),
    height          integer NOT NULL CHECK (height BETWEEN 1 AND 4096),
    picture         bytea NOT NULL CHECK (length(picture) <= 4000000),
    thumbnail       bytea NOT NULL CHECK (length(thumbnail) <= 200000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, deadout_id) REFERENCES deadout (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
ALTER TABLE deadout_photo ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN thumbnail SET STORAGE EXTERNAL;
CREATE INDEX deadout_photo_by_deadout ON deadout_photo (deadout_id, created_at);

-- Foulbrood was excluded for a colony that died: from then on its combs and boxes may go where the cause allows.
CREATE TABLE foulbrood_exclusion (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    deadout_id      uuid,
    found_by        text NOT NULL CHECK (found_by IN ('examination', 'laboratory')),
    excluded_on     date NOT NULL,
    reference       text NOT NULL DEFAULT '' CHECK (length(reference) <= 120),
    why             text NOT NULL CHECK (length(why) BETWEEN 3 AND 400),
    withdrawn_on    date CHECK (withdrawn_on >= excluded_on),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CONSTRAINT foulbrood_exclusion_evidence_check CHECK (CASE found_by WHEN 'laboratory' THEN reference <> '' ELSE deadout_id IS NOT NULL END),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, deadout_id) REFERENCES deadout (association_id, id)
);
CREATE UNIQUE INDEX one_exclusion_a_colony ON foulbrood_exclusion (colony_id) WHERE withdrawn_on IS NULL;

-- Where a comb or a box of a dead colony goes; of each exactly one, what was decided before stays in its history.
CREATE TABLE item_fate (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    box_id          uuid NOT NULL,
    frame_id        uuid,                              -- none: the box itself
    fate            text NOT NULL CHECK (fate ~ '^[a-z_]{1,40}$'),
    decided_on      date NOT NULL,
    done_on         date CHECK (done_on >= decided_on),
    reason          text NOT NULL DEFAULT '' CHECK (length(reason) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE NULLS NOT DISTINCT (colony_id, box_id, frame_id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, box_id) REFERENCES hive_box (association_id, id),
    FOREIGN KEY (association_id, frame_id) REFERENCES frame (association_id, id)
);

ALTER TABLE disease_case ADD COLUMN deadout_id uuid REFERENCES deadout;

CREATE FUNCTION keep_deadout_step_history() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    IF TG_OP = 'UPDATE' THEN
        NEW.version := OLD.version + 1;
        NEW.saved_at := clock_timestamp();
    END IF;
    IF (SELECT state FROM deadout WHERE id = NEW.deadout_id) = 'draft' THEN
        RETURN NEW;
    END IF;
    IF why = '' THEN
        RAISE EXCEPTION 'an amendment needs a reason' USING ERRCODE = 'check_violation', CONSTRAINT = 'amendment_reason';
    END IF;
    INSERT INTO audit (association_id, table_name, record_id, act, by_person, reason, previous, current)
    VALUES (NEW.association_id, TG_TABLE_NAME, NEW.deadout_id, CASE TG_OP WHEN 'UPDATE' THEN 'amended' ELSE 'created' END,
            my_person(), why, CASE TG_OP WHEN 'UPDATE' THEN to_jsonb(OLD) END, to_jsonb(NEW));
    RETURN NEW;
END $$;
REVOKE EXECUTE ON FUNCTION keep_deadout_step_history() FROM public;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON deadout FOR EACH ROW EXECUTE FUNCTION keep_visit_history();
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON deadout_step FOR EACH ROW EXECUTE FUNCTION keep_deadout_step_history();
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON item_fate FOR EACH ROW EXECUTE FUNCTION keep_history('');
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON foulbrood_exclusion FOR EACH ROW EXECUTE FUNCTION keep_history('');

DO $$
DECLARE
    event text;
    entry record;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('deadout', '', true), ('deadout_step', ' AND deadout_id IN (SELECT id FROM deadout)', true),
        ('deadout_photo', ' AND deadout_id IN (SELECT id FROM deadout)', false),
        ('foulbrood_exclusion', ' AND (SELECT my_role()) <> ''keeper'' AND (deadout_id IS NULL OR deadout_id IN (SELECT id FROM deadout))', true),
        ('item_fate', ' AND box_id IN (SELECT id FROM hive_box) AND (frame_id IS NULL OR frame_id IN (SELECT id FROM frame))', true)
        ) AS t (tab, checked, amended)
    LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())%s)',
                       entry.tab, follows, entry.checked);
        EXECUTE format('GRANT SELECT, INSERT ON %I TO redframe_app', entry.tab);
        IF entry.amended THEN
            EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write())%s)', entry.tab, follows,
                           CASE entry.tab WHEN 'foulbrood_exclusion' THEN ' AND (SELECT my_role()) <> ''keeper''' ELSE '' END);
            EXECUTE format('GRANT UPDATE ON %I TO redframe_app', entry.tab);
        END IF;
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event, entry.tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
        END LOOP;
    END LOOP;
END $$;
