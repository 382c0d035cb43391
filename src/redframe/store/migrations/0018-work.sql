-- The order of the day's work: of each apiary what is due there and where that puts it among the others, as the core has
-- said it. Derived: an apiary whose records were written to has turned, and is judged again by whoever reads the order next.

CREATE TABLE apiary_work (
    apiary_id       uuid PRIMARY KEY REFERENCES apiary,
    association_id  uuid NOT NULL,
    key             text COLLATE "C" NOT NULL,     -- the smaller, the sooner; 'z' and more where nothing is due
    due             jsonb NOT NULL,
    holds_until     timestamptz                    -- when a board that is in comes to be read
);
CREATE INDEX apiary_work_in_order ON apiary_work (association_id, key, apiary_id);
CREATE INDEX apiary_work_holds ON apiary_work (association_id, holds_until) WHERE holds_until IS NOT NULL;

-- Written by every change, never updated: no writer waits for another, and what comes while an apiary is judged stays.
CREATE TABLE work_turned (
    id              bigint GENERATED ALWAYS AS IDENTITY PRIMARY KEY,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL
);
CREATE INDEX work_turned_by_association ON work_turned (association_id);

CREATE FUNCTION turn_work() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    CASE TG_ARGV[0]
    WHEN 'all' THEN
        INSERT INTO work_turned (association_id, apiary_id)
        SELECT association_id, id FROM apiary WHERE association_id IN (SELECT association_id FROM touched);
    WHEN 'itself' THEN
        INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM touched;
    WHEN 'apiary' THEN
        INSERT INTO work_turned (association_id, apiary_id) SELECT DISTINCT association_id, apiary_id FROM touched;
    WHEN 'colony' THEN
        INSERT INTO work_turned (association_id, apiary_id)
        SELECT DISTINCT association_id, apiary_id FROM colony WHERE id IN (SELECT colony_id FROM touched);
    WHEN 'course' THEN
        INSERT INTO work_turned (association_id, apiary_id)
        SELECT DISTINCT c.association_id, c.apiary_id FROM colony c
        WHERE c.id IN (SELECT p.colony_id FROM course p WHERE p.id IN (SELECT course_id FROM touched));
    END CASE;
    RETURN NULL;
END $$;

DO $$
DECLARE
    entry record;
    event text;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('policy', 'all'), ('association_day', 'all'), ('apiary', 'itself'),
        ('apiary_now', 'apiary'), ('colony_now', 'apiary'), ('insert_board', 'colony'), ('course', 'colony'),
        ('course_step', 'course')) AS t (tab, leads)
    LOOP
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER work_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION turn_work(%L)', lower(event), event, entry.tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END, entry.leads);
        END LOOP;
    END LOOP;
END $$;

INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM apiary;

-- Seen and kept by whoever sees the apiary: it says nothing that its records do not say.
ALTER TABLE apiary_work ENABLE ROW LEVEL SECURITY;
ALTER TABLE work_turned ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON apiary_work USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR apiary_id = ANY ((SELECT my_apiaries())::uuid[])));
CREATE POLICY mine ON work_turned USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR apiary_id = ANY ((SELECT my_apiaries())::uuid[])));
GRANT SELECT, INSERT, UPDATE ON apiary_work TO redframe_app;
GRANT SELECT, DELETE ON work_turned TO redframe_app;
REVOKE EXECUTE ON FUNCTION turn_work() FROM public;
