-- Suspect cases of notifiable disease. What may follow on what, and by whom: `core/cases/states.py` holds the same
-- table, and a test that the two agree.
CREATE TABLE case_transition (
    act        text NOT NULL,
    track      text NOT NULL CHECK (track IN ('case', 'hold', 'tracing', 'radius')),
    source     text NOT NULL,
    target     text NOT NULL,
    actors     text[] NOT NULL,
    lifts      text NOT NULL CHECK (lifts IN ('no', 'yes', 'unless_it_stays')),
    PRIMARY KEY (track, source, act)
);
INSERT INTO case_transition VALUES
    ('not_supported', 'case', 'suspected', 'not_supported', '{inspector}', 'yes'),
    ('report', 'case', 'suspected', 'reported', '{inspector,keeper,mentor}', 'no'),
    ('sample', 'case', 'reported', 'sampled', '{inspector,mentor}', 'no'),
    ('sample', 'case', 'inconclusive', 'sampled', '{inspector,mentor}', 'no'),
    ('sample', 'case', 'recheck_due', 'sampled', '{inspector,mentor}', 'no'),
    ('sample', 'case', 'reopened', 'sampled', '{inspector,mentor}', 'no'),
    ('receive', 'case', 'sampled', 'lab_pending', '{laboratory}', 'no'),
    ('accept_negative', 'case', 'lab_pending', 'negative', '{inspector}', 'no'),
    ('accept_inconclusive', 'case', 'lab_pending', 'inconclusive', '{inspector}', 'no'),
    ('accept_confirmed', 'case', 'lab_pending', 'confirmed', '{inspector}', 'no'),
    ('recheck', 'case', 'negative', 'recheck_due', '{inspector}', 'unless_it_stays'),
    ('order', 'case', 'confirmed', 'order_issued', '{inspector}', 'no'),
    ('order', 'case', 'reinspected_positive', 'order_issued', '{inspector}', 'no'),
    ('order_done', 'case', 'order_issued', 'order_done', '{inspector}', 'no'),
    ('reinspect_falls_due', 'case', 'order_done', 'reinspect_due', '{system}', 'no'),
    ('reinspect_clear', 'case', 'reinspect_due', 'reinspected_clear', '{inspector}', 'no'),
    ('reinspect_clear', 'case', 'reinspected_clear', 'reinspected_clear', '{inspector}', 'no'),
    ('reinspect_positive', 'case', 'reinspect_due', 'reinspected_positive', '{inspector}', 'no'),
    ('reinspect_positive', 'case', 'reinspected_clear', 'reinspected_positive', '{inspector}', 'no'),
    ('release', 'case', 'reinspected_clear', 'released', '{inspector}', 'yes'),
    ('release', 'case', 'recheck_due', 'released', '{inspector}', 'yes'),
    ('suspect_again', 'case', 'recheck_due', 'suspected', '{inspector}', 'no'),
    ('reopen', 'case', 'suspected', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'not_supported', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'reported', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'sampled', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'lab_pending', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'negative', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'inconclusive', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'confirmed', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'order_issued', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'order_done', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'reinspect_due', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'recheck_due', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'reinspected_clear', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'reinspected_positive', 'reopened', '{inspector}', 'no'),
    ('reopen', 'case', 'released', 'reopened', '{inspector}', 'no'),
    ('reopen_suspected', 'case', 'reopened', 'suspected', '{inspector}', 'no'),
    ('reopen_reinspect', 'case', 'reopened', 'reinspect_due', '{inspector}', 'no'),
    ('close', 'case', 'not_supported', 'closed', '{administrator,inspector}', 'no'),
    ('close', 'case', 'released', 'closed', '{administrator,inspector}', 'no'),
    ('hold_voluntary', 'hold', 'none', 'voluntary', '{inspector,keeper,mentor,system}', 'no'),
    ('hold_voluntary', 'hold', 'lifted', 'voluntary', '{inspector,keeper,mentor,system}', 'no'),
    ('hold_official', 'hold', 'none', 'official', '{inspector}', 'no'),
    ('hold_official', 'hold', 'voluntary', 'official', '{inspector}', 'no'),
    ('hold_official', 'hold', 'official', 'official', '{inspector}', 'no'),
    ('hold_official', 'hold', 'lifted', 'official', '{inspector}', 'no'),
    ('open_tracing', 'tracing', 'not_begun', 'open', '{inspector}', 'no'),
    ('end_tracing', 'tracing', 'open', 'done', '{inspector}', 'no'),
    ('open_radius', 'radius', 'not_begun', 'open', '{inspector}', 'no'),
    ('end_radius', 'radius', 'open', 'done', '{inspector}', 'no');
GRANT SELECT ON case_transition TO redframe_app;

-- A case: raised by a rule or by a person. Its states are moved by its steps alone.
CREATE TABLE disease_case (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    number          text NOT NULL CHECK (number ~ '^[0-9]{4}-[0-9]{2,}$'),
    disease         text NOT NULL CHECK (disease IN ('afb', 'efb', 'small_hive_beetle', 'tropilaelaps')),
    colony_id       uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    visit_id        uuid REFERENCES visit,
    rules           text[] NOT NULL DEFAULT '{}' CHECK (cardinality(rules) <= 40),
    found_on        date NOT NULL,
    law             text NOT NULL CHECK (length(law) BETWEEN 1 AND 40),
    state           text NOT NULL DEFAULT 'suspected',
    hold            text NOT NULL DEFAULT 'none' CHECK (hold IN ('none', 'voluntary', 'official', 'lifted')),
    tracing         text NOT NULL DEFAULT 'not_begun' CHECK (tracing IN ('not_begun', 'open', 'done')),
    radius          text NOT NULL DEFAULT 'not_begun' CHECK (radius IN ('not_begun', 'open', 'done')),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    UNIQUE (association_id, number),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);
CREATE UNIQUE INDEX one_open_case ON disease_case (colony_id, disease) WHERE state <> 'closed';
CREATE INDEX disease_case_by_apiary ON disease_case (apiary_id) WHERE state <> 'closed';

-- The record of a case: only added to. What was wrong is corrected by a later entry.
CREATE TABLE case_step (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    seq             integer NOT NULL,
    act             text NOT NULL CHECK (act ~ '^[a-z_]{1,40}$'),
    track           text CHECK (track IN ('case', 'hold', 'tracing', 'radius')),
    source          text NOT NULL DEFAULT '',
    target          text NOT NULL DEFAULT '',
    actor           text NOT NULL,
    at              timestamptz NOT NULL,
    happened_on     date NOT NULL,
    evidence        jsonb NOT NULL DEFAULT '{}' CHECK (length(evidence::text) <= 12000),
    corrects        uuid REFERENCES case_step,
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (case_id, seq),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id)
);

-- What stands still, from when, until when: written by the steps of a case.
CREATE TABLE standstill (
    id              uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('voluntary', 'official')),
    covers          text NOT NULL CHECK (covers IN ('colony', 'apiary', 'keeper')),
    colony_id       uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    keeper_id       uuid NOT NULL,
    reference       text NOT NULL DEFAULT '' CHECK (length(reference) <= 120),
    since           date NOT NULL,
    until           date CHECK (until >= since),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id)
);
CREATE UNIQUE INDEX one_standstill_a_case ON standstill (case_id) WHERE until IS NULL;
CREATE INDEX standstill_by_apiary ON standstill (apiary_id);
CREATE INDEX standstill_by_colony ON standstill (colony_id);
CREATE INDEX standstill_by_keeper ON standstill (keeper_id) WHERE covers = 'keeper';

CREATE TABLE case_sample (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    colony_id       uuid NOT NULL,
    code            text NOT NULL UNIQUE CHECK (code ~ '^[A-Z0-9]{6}$'),
    kind            text NOT NULL CHECK (kind IN ('comb', 'larvae', 'bees', 'mites_or_beetles', 'debris', 'honey')),
    taken_from      text NOT NULL DEFAULT '' CHECK (length(taken_from) <= 200),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX case_sample_by_case ON case_sample (case_id);

CREATE TABLE custody_line (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    sample_id       uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('taken', 'sealed', 'handed_over', 'received')),
    at              timestamptz NOT NULL,
    by_name         text NOT NULL CHECK (length(by_name) BETWEEN 1 AND 120),
    to_name         text NOT NULL DEFAULT '' CHECK (length(to_name) <= 120),
    seal            text NOT NULL DEFAULT '' CHECK (length(seal) <= 40),
    temperature_c   double precision CHECK (temperature_c BETWEEN -90 AND 60),
    seal_whole      boolean,
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT clock_timestamp(),
    FOREIGN KEY (association_id, sample_id) REFERENCES case_sample (association_id, id)
);
CREATE INDEX custody_line_by_sample ON custody_line (sample_id, created_at);

-- What the laboratory wrote of a sample, as it signed it.
CREATE TABLE laboratory_document (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    sample_id       uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('receipt', 'result')),
    at              timestamptz NOT NULL,
    content         jsonb NOT NULL CHECK (length(content::text) <= 8000),
    signature       text NOT NULL CHECK (length(signature) BETWEEN 16 AND 200),
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (sample_id, kind),
    FOREIGN KEY (association_id, sample_id) REFERENCES case_sample (association_id, id)
);

-- The next number of a year; the association's cases are numbered one after another, whoever raises them.
CREATE FUNCTION next_case_number(of_year integer) RETURNS text LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    last integer;
BEGIN
    PERFORM pg_advisory_xact_lock(hashtextextended('case ' || my_association()::text, 0));
    SELECT max(split_part(number, '-', 2)::integer) INTO last FROM disease_case
    WHERE association_id = my_association() AND number LIKE of_year || '-%';
    RETURN of_year || '-' || lpad((coalesce(last, 0) + 1)::text, 2, '0');
END $$;

-- A step follows the table, is its actor's, and moves its case; nothing else does.
CREATE FUNCTION follow_case() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    of_case disease_case;
    row_of case_transition;
    stood text;
BEGIN
    SELECT * INTO of_case FROM disease_case WHERE id = NEW.case_id AND association_id = NEW.association_id FOR UPDATE;
    IF NOT FOUND THEN
        RAISE EXCEPTION 'no such case' USING ERRCODE = 'foreign_key_violation';
    END IF;
    NEW.seq := 1 + coalesce((SELECT max(seq) FROM case_step WHERE case_id = NEW.case_id), 0);
    IF NEW.actor NOT IN ('system', 'laboratory') AND NEW.actor <> my_role() THEN
        RAISE EXCEPTION 'a step is recorded in its own role' USING ERRCODE = 'check_violation', CONSTRAINT = 'case_step_actor';
    END IF;
    IF NEW.actor = 'laboratory' AND NOT EXISTS (SELECT FROM laboratory_document d JOIN case_sample s ON s.id = d.sample_id
                                                WHERE s.case_id = NEW.case_id) THEN
        RAISE EXCEPTION 'the laboratory signed nothing' USING ERRCODE = 'check_violation', CONSTRAINT = 'case_step_signed';
    END IF;
    IF NEW.corrects IS NOT NULL AND NOT EXISTS (SELECT FROM case_step WHERE id = NEW.corrects AND case_id = NEW.case_id) THEN
        RAISE EXCEPTION 'no such entry' USING ERRCODE = 'check_violation', CONSTRAINT = 'case_step_order';
    END IF;
    IF NEW.act IN ('raise', 'correct', 'anyway', 'seen_again') THEN
        IF NEW.act = 'raise' AND NEW.seq <> 1 THEN
            RAISE EXCEPTION 'a case is raised once' USING ERRCODE = 'check_violation', CONSTRAINT = 'case_step_order';
        END IF;
        RETURN NEW;
    END IF;
    stood := CASE NEW.track WHEN 'case' THEN of_case.state WHEN 'hold' THEN of_case.hold WHEN 'tracing' THEN of_case.tracing
             ELSE of_case.radius END;
    SELECT * INTO row_of FROM case_transition t
    WHERE t.track = NEW.track AND t.source = stood AND t.act = NEW.act AND t.target = NEW.target
    AND NEW.actor = ANY (t.actors) AND of_case.state <> 'closed';
    -- What was never confirmed is not traced, what was never ordered is not re-inspected.
    IF NOT FOUND OR NEW.source <> stood
        OR NEW.act IN ('open_tracing', 'open_radius', 'order')
            AND NOT EXISTS (SELECT FROM case_step WHERE case_id = NEW.case_id AND act = 'accept_confirmed')
        OR NEW.act = 'reopen_reinspect' AND NOT EXISTS (SELECT FROM case_step WHERE case_id = NEW.case_id AND act = 'order')
    THEN
        RAISE EXCEPTION 'this cannot follow' USING ERRCODE = 'check_violation', CONSTRAINT = 'case_step_order';
    END IF;
    UPDATE disease_case SET
        state = CASE NEW.track WHEN 'case' THEN NEW.target ELSE state END,
        hold = CASE WHEN NEW.track = 'hold' THEN NEW.target
               WHEN hold IN ('voluntary', 'official') AND (row_of.lifts = 'yes' OR row_of.lifts = 'unless_it_stays'
                    AND NEW.evidence ->> 'hold_stays' = 'false') THEN 'lifted' ELSE hold END,
        tracing = CASE NEW.track WHEN 'tracing' THEN NEW.target ELSE tracing END,
        radius = CASE NEW.track WHEN 'radius' THEN NEW.target ELSE radius END,
        version = version + 1
    WHERE id = NEW.case_id RETURNING * INTO of_case;
    IF NEW.track = 'hold' OR of_case.hold = 'lifted' THEN
        UPDATE standstill SET until = greatest(NEW.happened_on, since) WHERE case_id = NEW.case_id AND until IS NULL;
    END IF;
    IF NEW.track = 'hold' AND NEW.target IN ('voluntary', 'official') THEN
        INSERT INTO standstill (association_id, case_id, kind, covers, colony_id, apiary_id, keeper_id, reference, since)
        SELECT NEW.association_id, NEW.case_id, NEW.target, NEW.evidence ->> 'covers', of_case.colony_id, of_case.apiary_id,
               a.keeper_id, coalesce(NEW.evidence ->> 'reference', ''), NEW.happened_on
        FROM apiary a WHERE a.id = of_case.apiary_id;
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER follows BEFORE INSERT ON case_step FOR EACH ROW EXECUTE FUNCTION follow_case();

-- Whether an apiary, or one colony in it, stands still on a day.
CREATE FUNCTION stands_still(of_apiary uuid, of_colony uuid, on_day date) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT EXISTS (
        SELECT FROM standstill s
        WHERE s.since <= on_day AND (s.until IS NULL OR s.until > on_day)
        AND (s.covers = 'colony' AND s.colony_id = of_colony OR s.covers IN ('apiary', 'keeper') AND s.apiary_id = of_apiary
             OR s.covers = 'keeper' AND s.keeper_id = (SELECT keeper_id FROM apiary WHERE id = of_apiary))) $$;

-- Nothing goes in or out of what stands still unless it is recorded as having happened anyway, with its reason.
CREATE FUNCTION refuse_in_standstill() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    still boolean;
BEGIN
    IF TG_TABLE_NAME = 'colony_event' THEN
        still := NEW.rule = '' AND NEW.kind IN ('started', 'split_from', 'merged_into', 'moved') AND EXISTS (
            SELECT FROM colony c WHERE c.id = NEW.colony_id
            AND (stands_still(c.apiary_id, c.id, NEW.happened_on)
                 OR NEW.previous_apiary IS NOT NULL AND stands_still(NEW.previous_apiary, c.id, NEW.happened_on)));
    ELSIF TG_TABLE_NAME = 'frame_move' THEN
        still := NEW.rule = '' AND (NEW.from_apiary <> NEW.to_apiary
                OR NEW.from_colony IS NOT NULL AND NEW.to_colony IS NOT NULL AND NEW.from_colony <> NEW.to_colony)
            AND (stands_still(NEW.from_apiary, NEW.from_colony, NEW.moved_on)
                 OR stands_still(NEW.to_apiary, NEW.to_colony, NEW.moved_on));
    ELSE
        still := NEW.override_why = '' AND NEW.honey_for = 'bees' AND EXISTS (
            SELECT FROM colony c WHERE c.id = NEW.colony_id AND stands_still(c.apiary_id, c.id, NEW.harvested_on));
    END IF;
    IF still THEN
        RAISE EXCEPTION 'this apiary stands still' USING ERRCODE = 'check_violation', CONSTRAINT = 'stands_still';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER stands_still BEFORE INSERT ON colony_event FOR EACH ROW EXECUTE FUNCTION refuse_in_standstill();
CREATE TRIGGER stands_still BEFORE INSERT ON frame_move FOR EACH ROW EXECUTE FUNCTION refuse_in_standstill();
CREATE TRIGGER stands_still BEFORE INSERT ON harvest FOR EACH ROW EXECUTE FUNCTION refuse_in_standstill();

REVOKE EXECUTE ON FUNCTION next_case_number(integer), follow_case(), stands_still(uuid, uuid, date), refuse_in_standstill()
    FROM PUBLIC;
GRANT EXECUTE ON FUNCTION next_case_number(integer) TO redframe_app;

DO $$
DECLARE
    entry record;
    event text;
    mine text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %s)';
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('disease_case', '(apiary_id = ANY ((SELECT my_apiaries())::uuid[]) OR colony_id = ANY ((SELECT my_colonies())::uuid[]))'),
        ('case_step', 'case_id IN (SELECT id FROM disease_case)'),
        ('standstill', 'keeper_id = (SELECT my_keeper())'),
        ('case_sample', 'case_id IN (SELECT id FROM disease_case)'),
        ('custody_line', 'sample_id IN (SELECT id FROM case_sample)'),
        ('laboratory_document', 'sample_id IN (SELECT id FROM case_sample)')) AS t (tab, own)
    LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, format(mine, entry.own));
        EXECUTE format('GRANT SELECT ON %I TO redframe_app', entry.tab);
        CONTINUE WHEN entry.tab = 'standstill';
        -- What a row refers to beside its own place is something that its writer sees.
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())%s)', entry.tab,
                       format(mine, entry.own), CASE entry.tab
                       WHEN 'disease_case' THEN ' AND (visit_id IS NULL OR visit_id IN (SELECT id FROM visit))'
                       ELSE '' END);
        EXECUTE format('GRANT INSERT ON %I TO redframe_app', entry.tab);
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''shared'')', lower(event), event, entry.tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
        END LOOP;
    END LOOP;
END $$;
