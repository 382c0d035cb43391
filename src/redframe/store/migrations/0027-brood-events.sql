-- What somebody says that stopped the laying of a colony: the brood calendar counts from it. What a course, a split or a
-- colony found without a queen says is read from there.
CREATE TABLE brood_event (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    kind            text NOT NULL CHECK (kind IN ('queen_caged', 'queen_removed', 'swarm_left')),
    happened_on     date NOT NULL,
    release_on      date CHECK (release_on >= happened_on),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK (kind = 'queen_caged' OR release_on IS NULL),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX brood_event_by_colony ON brood_event (colony_id, happened_on);
ALTER TABLE brood_event ENABLE ROW LEVEL SECURITY;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON brood_event FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
GRANT SELECT, INSERT, UPDATE ON brood_event TO redframe_app;

DO $$
DECLARE
    event text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    EXECUTE format('CREATE POLICY seen ON brood_event FOR SELECT USING (%s)', follows);
    EXECUTE format('CREATE POLICY created ON brood_event FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', follows);
    EXECUTE format('CREATE POLICY amended ON brood_event FOR UPDATE USING (%s AND (SELECT i_may_write()))', follows);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON brood_event REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
