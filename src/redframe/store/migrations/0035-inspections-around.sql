-- Visits to the apiaries around a confirmed case, each once on record: what was found there, or why nothing could be. An
-- apiary that nobody registered is in words.
CREATE TABLE around_visit (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    apiary_id       uuid,
    place           text NOT NULL DEFAULT '' CHECK (length(place) <= 120),
    visited_on      date NOT NULL,
    outcome         text NOT NULL CHECK (outcome IN ('clear', 'suspect', 'refused', 'no_colonies', 'not_found')),
    letter_sent     boolean NOT NULL DEFAULT false,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    CONSTRAINT around_visit_where_check CHECK ((apiary_id IS NULL) <> (place = '')),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);
CREATE INDEX around_visit_by_case ON around_visit (case_id, visited_on);
ALTER TABLE around_visit ENABLE ROW LEVEL SECURITY;
GRANT SELECT, INSERT ON around_visit TO redframe_app;

DO $$
DECLARE
    event text;
    whole text := 'association_id = (SELECT my_association()) AND (SELECT my_role()) IN (''inspector'', ''administrator'')';
BEGIN
    EXECUTE format('CREATE POLICY seen ON around_visit FOR SELECT USING (%s)', whole);
    EXECUTE format('CREATE POLICY created ON around_visit FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())'
                   ' AND (SELECT my_role()) = ''inspector'' AND case_id IN (SELECT id FROM disease_case)'
                   ' AND (apiary_id IS NULL OR apiary_id IN (SELECT id FROM apiary)))', whole);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON around_visit REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''shared'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
