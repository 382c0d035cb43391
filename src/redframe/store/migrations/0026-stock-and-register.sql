-- Products in stock by their lots, what is asked at a step of a course, why a course was decided, and the register of
-- treatments: numbered entries that nobody can change, with the lines that they add up to.

-- `product`, `strength`, `lot` as they are written on the pack; quantities in `unit`. `keeper_id`: whose it is, NULL for
-- the association's. `made_from`: a solution mixed from it.
CREATE TABLE product_lot (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    keeper_id       uuid,
    product         text NOT NULL CHECK (length(product) BETWEEN 1 AND 120),
    option_ids      text[] NOT NULL CHECK (cardinality(option_ids) BETWEEN 1 AND 12),
    unit            text NOT NULL CHECK (length(unit) BETWEEN 1 AND 20),
    quantity        double precision NOT NULL CHECK (quantity > 0 AND quantity <= 1000000),
    strength        text NOT NULL DEFAULT '' CHECK (length(strength) <= 80),
    lot             text NOT NULL DEFAULT '' CHECK (length(lot) <= 80),
    expires_on      date,
    bought_on       date,
    supplier        text NOT NULL DEFAULT '' CHECK (length(supplier) <= 120),
    receipt         text NOT NULL DEFAULT '' CHECK (length(receipt) <= 120),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    made_from       uuid,
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    CHECK (expires_on >= bought_on),
    CHECK (made_from <> id),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    FOREIGN KEY (association_id, made_from) REFERENCES product_lot (association_id, id)
);
CREATE INDEX product_lot_by_association ON product_lot (association_id, expires_on);
CREATE INDEX product_lot_made_from ON product_lot (made_from) WHERE made_from IS NOT NULL;

-- What was done with part of a lot beside being placed: `found` adds to it, the others take from it.
CREATE TABLE lot_change (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    lot_id          uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('disposed', 'lost', 'mixed', 'found')),
    quantity        double precision NOT NULL CHECK (quantity > 0 AND quantity <= 1000000),
    done_on         date NOT NULL,
    how             text NOT NULL DEFAULT '' CHECK (length(how) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, lot_id) REFERENCES product_lot (association_id, id)
);
CREATE INDEX lot_change_by_lot ON lot_change (lot_id);

ALTER TABLE course_act ADD COLUMN lot_id uuid;
ALTER TABLE course_act ADD COLUMN facts jsonb NOT NULL DEFAULT '{}';
ALTER TABLE course_act ADD FOREIGN KEY (association_id, lot_id) REFERENCES product_lot (association_id, id);
CREATE INDEX course_act_by_lot ON course_act (lot_id) WHERE lot_id IS NOT NULL;
ALTER TABLE course ADD COLUMN treated_for jsonb;

-- A number a register, given out within the transaction that uses it: none is ever left out.
CREATE TABLE register_number (
    association_id  uuid NOT NULL REFERENCES association ON DELETE CASCADE,
    keeper_id       uuid,                       -- NULL: the association's own
    last            bigint NOT NULL,
    UNIQUE NULLS NOT DISTINCT (association_id, keeper_id)
);

-- A placing as it is known now: what the entries add up to.
CREATE TABLE register_line (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    keeper_id       uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    colony_id       uuid NOT NULL,
    course_id       uuid NOT NULL,
    option_id       text NOT NULL,
    number          bigint NOT NULL,            -- of the entry that it began with
    keeper_number   bigint NOT NULL,
    placed_on       date NOT NULL,
    last_on         date NOT NULL,              -- the last day that it speaks of
    entered_on      date NOT NULL,
    is_void         boolean NOT NULL DEFAULT false,
    missing         text[] NOT NULL,            -- what an authority asks for and nobody has entered
    line            jsonb NOT NULL,
    UNIQUE (association_id, number),
    UNIQUE (keeper_id, keeper_number),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, course_id) REFERENCES course (association_id, id)
);
CREATE INDEX register_line_by_course ON register_line (course_id);
CREATE INDEX register_line_by_day ON register_line (association_id, placed_on DESC, number DESC);

CREATE TABLE register_entry (
    association_id  uuid NOT NULL,
    number          bigint NOT NULL,
    keeper_id       uuid NOT NULL,
    keeper_number   bigint NOT NULL,
    line_id         uuid NOT NULL REFERENCES register_line,
    kind            text NOT NULL CHECK (kind IN ('line', 'added', 'amended', 'void', 'restored')),
    line            jsonb,                      -- in full, as it was first entered
    changes         jsonb NOT NULL DEFAULT '[]',
    why             text NOT NULL DEFAULT '' CHECK (length(why) <= 2000),
    by_name         text NOT NULL,              -- as the person was called on that day
    entered_at      timestamptz NOT NULL,
    PRIMARY KEY (association_id, number),
    UNIQUE (keeper_id, keeper_number),
    CHECK ((kind = 'line') = (line IS NOT NULL)),
    FOREIGN KEY (association_id, keeper_id) REFERENCES keeper (association_id, id)
);
CREATE INDEX register_entry_by_line ON register_entry (line_id, number);

-- Nobody changes an entry, the owner of the database neither.
CREATE FUNCTION register_stays() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    RAISE EXCEPTION 'an entry of the register is never changed or deleted' USING ERRCODE = 'insufficient_privilege';
END $$;
CREATE TRIGGER stays BEFORE UPDATE OR DELETE ON register_entry FOR EACH ROW EXECUTE FUNCTION register_stays();

CREATE FUNCTION next_register_number(association uuid, keeper uuid) RETURNS bigint LANGUAGE sql
    SET search_path = pg_catalog, public, pg_temp AS $$
    INSERT INTO register_number (association_id, keeper_id, last) VALUES (association, keeper, 1)
    ON CONFLICT (association_id, keeper_id) DO UPDATE SET last = register_number.last + 1 RETURNING last $$;

-- The lines of a course that the person can see, whoever was its keeper when they were entered.
CREATE FUNCTION register_of_course(course uuid) RETURNS TABLE (id uuid, line jsonb, is_void boolean, keeper_id uuid)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT l.id, l.line, l.is_void, l.keeper_id FROM register_line l JOIN course c ON c.id = l.course_id
    WHERE l.course_id = course AND l.association_id = my_association()
    AND (my_role() <> 'keeper' OR c.colony_id = ANY (my_colonies())) ORDER BY l.number $$;

-- The one way into the register: a new line, or what has changed of one that is there.
CREATE FUNCTION register_enter(entry_kind text, line_id uuid, of_course uuid, of_keeper uuid, of_apiary uuid, placed date,
                               last_day date, today date, moment timestamptz, now_line jsonb, changed jsonb, lacking text[], reason text)
    RETURNS bigint LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    given record;
    known register_line;
    whose uuid;
    number bigint;
    keeper_number bigint;
BEGIN
    SELECT c.colony_id, c.option_id INTO given FROM course c WHERE c.id = of_course AND c.association_id = my_association()
        AND (my_role() <> 'keeper' OR c.colony_id = ANY (my_colonies()));
    SELECT l.* INTO known FROM register_line l WHERE l.id = line_id;
    IF given IS NULL OR NOT i_may_write() OR (known IS NULL) <> (entry_kind = 'line')
       OR (entry_kind <> 'line' AND known.course_id <> of_course)
       OR NOT EXISTS (SELECT FROM apiary a WHERE a.id = of_apiary AND a.association_id = my_association()) THEN
        RAISE EXCEPTION 'not for the register' USING ERRCODE = 'insufficient_privilege';
    END IF;
    whose := coalesce(known.keeper_id, of_keeper);
    -- Always in this order, so that two who write wait for each other and never both.
    number := next_register_number(my_association(), NULL);
    keeper_number := next_register_number(my_association(), whose);
    IF entry_kind = 'line' THEN
        INSERT INTO register_line (id, association_id, keeper_id, apiary_id, colony_id, course_id, option_id, number, keeper_number,
                                   placed_on, last_on, entered_on, missing, line)
        VALUES (line_id, my_association(), whose, of_apiary, given.colony_id, of_course, given.option_id, number, keeper_number,
                placed, last_day, today, lacking, now_line);
    ELSE
        UPDATE register_line l SET placed_on = placed, last_on = greatest(l.last_on, last_day), is_void = entry_kind = 'void',
            missing = lacking, line = now_line WHERE l.id = line_id;
    END IF;
    INSERT INTO register_entry (association_id, number, keeper_id, keeper_number, line_id, kind, line, changes, why, by_name,
                                entered_at)
    VALUES (my_association(), number, whose, keeper_number, line_id, entry_kind,
            CASE entry_kind WHEN 'line' THEN now_line END, changed, left(coalesce(nullif(reason, ''), current_setting('redframe.reason', true), ''), 2000),
            coalesce((SELECT name FROM person WHERE id = my_person()), ''), moment);
    RETURN number;
END $$;
REVOKE EXECUTE ON FUNCTION register_stays(), next_register_number(uuid, uuid), register_of_course(uuid),
    register_enter(text, uuid, uuid, uuid, uuid, date, date, date, timestamptz, jsonb, jsonb, text[], text) FROM public;
GRANT EXECUTE ON FUNCTION register_of_course(uuid),
    register_enter(text, uuid, uuid, uuid, uuid, date, date, date, timestamptz, jsonb, jsonb, text[], text) TO redframe_app;

DO $$
DECLARE
    tab text;
    mine text := 'association_id = (SELECT my_association())';
    whose text := '((SELECT my_role()) <> ''keeper'' OR keeper_id = (SELECT my_keeper()))';
    -- A keeper sees what the association has in stock, and keeps an own one.
    store text := '((SELECT my_role()) <> ''keeper'' OR keeper_id IS NULL OR keeper_id = (SELECT my_keeper()))';
BEGIN
    FOREACH tab IN ARRAY ARRAY['product_lot', 'lot_change', 'register_number', 'register_line', 'register_entry'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', tab);
    END LOOP;
    EXECUTE format('CREATE POLICY seen ON product_lot FOR SELECT USING (%s AND %s)', mine, store);
    EXECUTE format('CREATE POLICY created ON product_lot FOR INSERT WITH CHECK (%s AND %s AND (SELECT i_may_write()))', mine, whose);
    EXECUTE format('CREATE POLICY amended ON product_lot FOR UPDATE USING (%s AND %s AND (SELECT i_may_write()))', mine, whose);
    EXECUTE format('CREATE POLICY seen ON lot_change FOR SELECT USING (%s AND EXISTS (SELECT FROM product_lot seen WHERE seen.id = lot_id))', mine);
    EXECUTE format('CREATE POLICY created ON lot_change FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()) AND EXISTS '
        '(SELECT FROM product_lot seen WHERE seen.id = lot_id AND %s))', mine, whose);
    EXECUTE format('CREATE POLICY seen ON register_number FOR SELECT USING (%s AND %s)', mine, whose);
    EXECUTE format('CREATE POLICY seen ON register_line FOR SELECT USING (%s AND %s)', mine, whose);
    EXECUTE format('CREATE POLICY seen ON register_entry FOR SELECT USING (%s AND %s)', mine, whose);
    CREATE POLICY keeper_id_seen ON product_lot AS RESTRICTIVE FOR INSERT
        WITH CHECK (keeper_id IS NULL OR EXISTS (SELECT FROM keeper seen WHERE seen.id = product_lot.keeper_id));
    CREATE POLICY keeper_id_seen_still ON product_lot AS RESTRICTIVE FOR UPDATE USING (true)
        WITH CHECK (keeper_id IS NULL OR EXISTS (SELECT FROM keeper seen WHERE seen.id = product_lot.keeper_id));
    CREATE POLICY lot_id_seen ON course_act AS RESTRICTIVE FOR INSERT
        WITH CHECK (lot_id IS NULL OR EXISTS (SELECT FROM product_lot seen WHERE seen.id = course_act.lot_id));
    CREATE POLICY lot_id_seen_still ON course_act AS RESTRICTIVE FOR UPDATE USING (true)
        WITH CHECK (lot_id IS NULL OR EXISTS (SELECT FROM product_lot seen WHERE seen.id = course_act.lot_id));
END $$;
-- A policy that refers to its own table is asked of a function, for a policy cannot.
CREATE FUNCTION lot_is_mine(given uuid) RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT EXISTS (SELECT FROM product_lot l WHERE l.id = given AND l.association_id = my_association()
                   AND (my_role() <> 'keeper' OR l.keeper_id IS NULL OR l.keeper_id = my_keeper())) $$;
REVOKE EXECUTE ON FUNCTION lot_is_mine(uuid) FROM public;
GRANT EXECUTE ON FUNCTION lot_is_mine(uuid) TO redframe_app;
CREATE POLICY made_from_seen ON product_lot AS RESTRICTIVE FOR INSERT
    WITH CHECK (made_from IS NULL OR lot_is_mine(made_from));

GRANT SELECT, INSERT, UPDATE ON product_lot TO redframe_app;
GRANT SELECT, INSERT ON lot_change TO redframe_app;
GRANT SELECT ON register_number, register_line, register_entry TO redframe_app;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON product_lot FOR EACH ROW EXECUTE FUNCTION keep_history('reason');

CREATE OR REPLACE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id, t.policy_version, t.start_on,
       t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on, t.ended_on, t.honey_clear_on,
       t.suitability->'reasons' AS reasons, t.overrides, t.verdict, t.abandoned_why,
       coalesce((SELECT name FROM member WHERE member.id = t.by_person), '') AS by_name, t.created_at, t.version,
       CASE WHEN t.is_earlier THEN (SELECT to_jsonb(e) - '{id,association_id,colony_id,by_person,created_at}'::text[]
                                    FROM earlier_treatment e WHERE e.id = t.id) END AS earlier,
       (SELECT one FROM policy p CROSS JOIN jsonb_array_elements(p.treatment_rules -> 'product_labels') AS one
        WHERE p.association_id = t.association_id AND p.version = t.policy_version AND one ->> 'option' = t.option_id
        LIMIT 1) AS product_label, t.treated_for
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;

-- How much of a lot was placed, in the unit of its doses: also in hives that the person does not see.
CREATE FUNCTION placed_of_lot(given uuid) RETURNS jsonb LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT coalesce(jsonb_object_agg(option_id, placed), '{}') FROM (
        SELECT t.option_id, sum(a.quantity) AS placed FROM course_act a JOIN course t ON t.id = a.course_id
        WHERE a.lot_id = given AND a.outcome = 'done' AND a.quantity IS NOT NULL AND lot_is_mine(given)
        GROUP BY t.option_id) AS by_option $$;
REVOKE EXECUTE ON FUNCTION placed_of_lot(uuid) FROM public;
GRANT EXECUTE ON FUNCTION placed_of_lot(uuid) TO redframe_app;
