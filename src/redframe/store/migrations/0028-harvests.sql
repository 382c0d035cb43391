-- Honey taken from colonies. What is for people never comes from a hive in which a treatment lies or whose withdrawal is
-- not over, unless somebody named takes it on: the database refuses it whoever writes.
CREATE TABLE harvest (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    harvested_on    date NOT NULL,
    honey_for       text NOT NULL CHECK (honey_for IN ('people', 'bees')),
    honey_kg        double precision CHECK (honey_kg > 0 AND honey_kg <= 200),
    batch           text NOT NULL DEFAULT '' CHECK (length(batch) <= 80),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    override_by     text NOT NULL DEFAULT '' CHECK (length(override_by) <= 120),
    override_why    text NOT NULL DEFAULT '' CHECK (length(override_why) <= 400),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK ((override_by = '') = (override_why = '')),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX harvest_by_colony ON harvest (colony_id, harvested_on);
CREATE INDEX harvest_by_association ON harvest (association_id, harvested_on DESC);
ALTER TABLE harvest ENABLE ROW LEVEL SECURITY;
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON harvest FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
GRANT SELECT, INSERT, UPDATE ON harvest TO redframe_app;

CREATE FUNCTION refuse_unclear_honey() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    IF NEW.honey_for = 'people' AND NEW.override_why = '' AND EXISTS (
        SELECT FROM course t
        WHERE t.colony_id = NEW.colony_id AND t.chemical AND t.state <> 'withdrawn' AND t.placed_on <= NEW.harvested_on
        AND (t.ended_on IS NULL OR t.ended_on > NEW.harvested_on OR t.honey_clear_on > NEW.harvested_on)
    ) THEN
        RAISE EXCEPTION 'the honey of this colony is not clear' USING ERRCODE = 'check_violation', CONSTRAINT = 'harvest_is_clear';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER is_clear BEFORE INSERT ON harvest FOR EACH ROW EXECUTE FUNCTION refuse_unclear_honey();

DO $$
DECLARE
    event text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    EXECUTE format('CREATE POLICY seen ON harvest FOR SELECT USING (%s)', follows);
    EXECUTE format('CREATE POLICY created ON harvest FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', follows);
    EXECUTE format('CREATE POLICY amended ON harvest FOR UPDATE USING (%s AND (SELECT i_may_write()))', follows);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON harvest REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''colony'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
