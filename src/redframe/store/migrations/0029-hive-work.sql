-- What was done at the hive in a course without a product, act by act. Each act is on record once; one that was not so is
-- withdrawn with a reason and may be done again.
CREATE TABLE hive_act (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    course_id       uuid NOT NULL,
    act             text NOT NULL CHECK (act ~ '^[a-z_]{1,40}$'),
    done_on         date NOT NULL,
    details         jsonb NOT NULL DEFAULT '{}' CHECK (length(details::text) <= 8000),
    fed             boolean NOT NULL DEFAULT false,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, course_id) REFERENCES course (association_id, id)
);
CREATE UNIQUE INDEX hive_act_once ON hive_act (course_id, act) WHERE withdrawn_why = '';
CREATE INDEX hive_act_by_colony ON hive_act (colony_id, done_on);
CREATE INDEX hive_act_by_association ON hive_act (association_id);
ALTER TABLE hive_act ENABLE ROW LEVEL SECURITY;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON hive_act FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
GRANT SELECT, INSERT, UPDATE ON hive_act TO redframe_app;

DO $$
DECLARE
    event text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    EXECUTE format('CREATE POLICY seen ON hive_act FOR SELECT USING (%s)', follows);
    EXECUTE format('CREATE POLICY created ON hive_act FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', follows);
    EXECUTE format('CREATE POLICY amended ON hive_act FOR UPDATE USING (%s AND (SELECT i_may_write()))', follows);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON hive_act REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
