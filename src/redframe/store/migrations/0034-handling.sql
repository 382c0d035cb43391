-- A way of handling a condition that was chosen for a colony, why, how it began, and what became of it. `combs` are those
-- that are followed wherever they hang.
CREATE TABLE handling (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    visit_id        uuid NOT NULL,
    condition       text NOT NULL CHECK (condition ~ '^[a-z_]{1,40}$'),
    option          text NOT NULL CHECK (option ~ '^[a-z_]{1,40}$'),
    reason          text NOT NULL CHECK (length(reason) BETWEEN 3 AND 400),
    chosen_on       date NOT NULL,
    recheck_from    date NOT NULL CHECK (recheck_from >= chosen_on),
    recheck_to      date NOT NULL CHECK (recheck_to >= recheck_from),
    cells           double precision NOT NULL CHECK (cells >= 0 AND cells <= 1000000),
    combs_with_sign integer NOT NULL CHECK (combs_with_sign BETWEEN 0 AND 400),
    combs           uuid[] NOT NULL DEFAULT '{}' CHECK (cardinality(combs) <= 40),
    state           text NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'ended', 'withdrawn')),
    ended_on        date CHECK (ended_on >= chosen_on),
    outcome         text CHECK (outcome IN ('gone', 'less', 'same', 'more')),
    looked_on       date,
    ended_why       text NOT NULL DEFAULT '' CHECK (length(ended_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CONSTRAINT handling_ended_check CHECK ((state = 'open') = (ended_on IS NULL)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, visit_id) REFERENCES visit (association_id, id)
);
CREATE UNIQUE INDEX one_open_handling ON handling (colony_id, condition) WHERE state = 'open';
CREATE INDEX handling_by_colony ON handling (colony_id, chosen_on DESC);
CREATE INDEX handling_by_association ON handling (association_id, condition);
ALTER TABLE handling ENABLE ROW LEVEL SECURITY;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON handling FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
GRANT SELECT, INSERT, UPDATE ON handling TO redframe_app;

DO $$
DECLARE
    event text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    EXECUTE format('CREATE POLICY seen ON handling FOR SELECT USING (%s)', follows);
    EXECUTE format('CREATE POLICY created ON handling FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())'
                   ' AND visit_id IN (SELECT id FROM visit))', follows);
    EXECUTE format('CREATE POLICY amended ON handling FOR UPDATE USING (%s AND (SELECT i_may_write()))', follows);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON handling REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
