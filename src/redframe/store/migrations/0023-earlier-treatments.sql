-- What a colony was given before anybody planned it here: a course like any other to every rule that looks back, known
-- from somebody's word or papers, and closed as it is entered unless it is still in the hive.

INSERT INTO course_state VALUES ('given_earlier', false), ('withdrawn', false);

-- Of an earlier treatment the dose may not be known; and what was given is written down, whatever else was in the hive.
ALTER TABLE course ADD COLUMN is_earlier boolean NOT NULL DEFAULT false;
ALTER TABLE course ALTER COLUMN dose_quantity DROP NOT NULL;
ALTER TABLE course ADD CONSTRAINT course_dose_check CHECK (is_earlier OR dose_quantity IS NOT NULL);
ALTER TABLE course ADD CONSTRAINT course_of_colony UNIQUE (id, colony_id);
ALTER TABLE course DROP CONSTRAINT one_chemical_course;
ALTER TABLE course ADD CONSTRAINT one_chemical_course EXCLUDE USING gist (colony_id WITH =, occupies WITH &&)
    WHERE (chemical AND state NOT IN ('abandoned', 'given_earlier', 'withdrawn'));

CREATE TABLE earlier_treatment (
    id              uuid PRIMARY KEY,              -- of its course
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    doses_on        date[] NOT NULL CHECK (cardinality(doses_on) BETWEEN 1 AND 20),
    end_known       text NOT NULL CHECK (end_known IN ('known', 'not_known', 'still_in')),
    outcome         text CHECK (outcome IN ('worked', 'partly', 'failed')),
    given_by        text NOT NULL DEFAULT '' CHECK (length(given_by) <= 120),
    known_from      text NOT NULL
        CHECK (known_from IN ('own_record', 'keeper_record', 'keeper_said', 'pack_seen', 'other_record')),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (id, colony_id) REFERENCES course (id, colony_id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);

-- From which day on all treatments of a colony are on record: somebody says that nothing else was given since.
CREATE TABLE treatments_known (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL UNIQUE,
    known_since     date NOT NULL,
    known_from      text NOT NULL
        CHECK (known_from IN ('own_record', 'keeper_record', 'keeper_said', 'pack_seen', 'other_record')),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);

DO $$
DECLARE
    tab text;
    event text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    FOREACH tab IN ARRAY ARRAY['earlier_treatment', 'treatments_known'] LOOP
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', tab, follows);
        EXECUTE format('CREATE POLICY created ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', tab, follows);
        EXECUTE format('CREATE POLICY amended ON %I FOR UPDATE USING (%s AND (SELECT i_may_write()))', tab, follows);
        EXECUTE format('GRANT SELECT, INSERT, UPDATE ON %I TO redframe_app', tab);
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event, tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
        END LOOP;
    END LOOP;
END $$;
-- What was said of the past says why when it is corrected; that more is known now needs no reason.
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON earlier_treatment FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON treatments_known FOR EACH ROW EXECUTE FUNCTION keep_history('');
CREATE POLICY id_seen ON earlier_treatment AS RESTRICTIVE FOR INSERT
    WITH CHECK (EXISTS (SELECT FROM course seen WHERE seen.id = earlier_treatment.id));

CREATE OR REPLACE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id, t.policy_version, t.start_on,
       t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on, t.ended_on, t.honey_clear_on,
       t.suitability->'reasons' AS reasons, t.overrides, t.verdict, t.abandoned_why,
       coalesce((SELECT name FROM member WHERE member.id = t.by_person), '') AS by_name, t.created_at, t.version,
       CASE WHEN t.is_earlier THEN (SELECT to_jsonb(e) - '{id,association_id,colony_id,by_person,created_at}'::text[]
                                    FROM earlier_treatment e WHERE e.id = t.id) END AS earlier
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;
