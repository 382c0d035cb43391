-- Every way of counting beside the wash, boards that lie and wait to be read, an association's own levels for each school,
-- and apiaries that follow a policy of their own.

ALTER TABLE mite_count
    DROP CONSTRAINT mite_count_method_check,
    ADD CONSTRAINT mite_count_method_check CHECK (method IN
        ('wash', 'sugar', 'co2', 'board', 'board_after_treatment', 'drone_brood', 'look')),
    ALTER COLUMN method DROP DEFAULT,
    ALTER COLUMN shakes DROP NOT NULL,
    ALTER COLUMN bees_known_by DROP NOT NULL,
    ALTER COLUMN place_of_bees DROP NOT NULL,
    ALTER COLUMN queen_safe DROP NOT NULL,
    -- jars
    ADD COLUMN rested_s integer CHECK (rested_s BETWEEN 0 AND 7200),
    ADD COLUMN wet text CHECK (wet IN ('yes', 'no', 'not_looked')),
    -- boards
    ADD COLUMN placed_at timestamptz,
    ADD COLUMN squares integer[] CHECK (cardinality(squares) BETWEEN 1 AND 400 AND 0 <= ALL (squares)),
    ADD COLUMN squares_in_all integer CHECK (squares_in_all BETWEEN 1 AND 400),
    ADD COLUMN cleaned text CHECK (cleaned IN ('yes', 'no', 'not_looked')),
    ADD COLUMN greased text CHECK (greased IN ('yes', 'no', 'not_looked')),
    ADD COLUMN ants text CHECK (ants IN ('yes', 'no', 'not_looked')),
    -- drone brood
    ADD COLUMN cells_opened integer CHECK (cells_opened BETWEEN 1 AND 5000),
    ADD COLUMN cells_infested integer CHECK (cells_infested BETWEEN 0 AND cells_opened),
    ADD COLUMN mites_in_cells integer CHECK (mites_in_cells >= cells_infested),
    ADD COLUMN patches integer CHECK (patches BETWEEN 1 AND 50),
    -- bees looked at
    ADD COLUMN mites_seen boolean,
    ADD CONSTRAINT mite_count_jar CHECK (
        CASE WHEN method IN ('wash', 'sugar', 'co2')
             THEN num_nonnulls(shakes, bees_known_by, place_of_bees, queen_safe) = 4
             ELSE num_nonnulls(shakes, bees_known_by, bees, volume_ml, mass_g, place_of_bees, queen_safe, rested_s, wet) = 0 END),
    ADD CONSTRAINT mite_count_roll CHECK (method = 'wash' OR cardinality(shakes) = 1),
    ADD CONSTRAINT mite_count_sugar CHECK ((method = 'sugar') = (wet IS NOT NULL) AND (method = 'sugar' OR rested_s IS NULL)),
    ADD CONSTRAINT mite_count_board CHECK (
        CASE WHEN method IN ('board', 'board_after_treatment')
             THEN num_nonnulls(placed_at, squares, squares_in_all, cleaned, greased, ants) = 6
                  AND placed_at < taken_at AND cardinality(squares) <= squares_in_all
             ELSE num_nonnulls(placed_at, squares, squares_in_all, cleaned, greased, ants) = 0 END),
    ADD CONSTRAINT mite_count_drone CHECK (
        CASE WHEN method = 'drone_brood' THEN num_nonnulls(cells_opened, cells_infested) = 2
             ELSE num_nonnulls(cells_opened, cells_infested, mites_in_cells, patches) = 0 END),
    ADD CONSTRAINT mite_count_look CHECK ((method = 'look') = (mites_seen IS NOT NULL));

ALTER TABLE count_reading
    ADD COLUMN scale text NOT NULL DEFAULT 'mites_per_100'
        CHECK (scale IN ('mites_per_100', 'mites_per_day', 'percent_of_cells')),
    ADD COLUMN board_days double precision CHECK (board_days > 0),
    ADD COLUMN board_cv double precision CHECK (board_cv >= 0),
    ALTER COLUMN bees_mean DROP NOT NULL,
    ALTER COLUMN bees_cv DROP NOT NULL,
    ALTER COLUMN recovery DROP NOT NULL,
    ADD CHECK ((scale = 'mites_per_100') = (num_nonnulls(bees_mean, bees_cv, recovery) = 3)),
    ADD CHECK ((scale = 'mites_per_day') = (num_nonnulls(board_days, board_cv) = 2));
ALTER TABLE count_reading ALTER COLUMN scale DROP DEFAULT;

ALTER TABLE outlook
    ADD COLUMN scale text NOT NULL DEFAULT 'mites_per_100',
    ADD COLUMN recovery text,
    ALTER COLUMN bees_mean DROP NOT NULL;
UPDATE outlook o SET recovery = r.recovery FROM count_reading r WHERE r.count_id = o.count_id;
ALTER TABLE outlook ALTER COLUMN scale DROP DEFAULT;

ALTER TABLE standing RENAME COLUMN act_per_100 TO act_at;   -- in the unit of the school
ALTER TABLE standing ADD COLUMN school text;
UPDATE standing s SET school = (SELECT p.school FROM policy p WHERE p.association_id = s.association_id
                                ORDER BY p.version DESC LIMIT 1);
ALTER TABLE standing ALTER COLUMN school SET NOT NULL;

-- A board that lies under a colony and waits to be read.
CREATE TABLE insert_board (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    placed_at       timestamptz NOT NULL,
    cleaned         text NOT NULL CHECK (cleaned IN ('yes', 'no', 'not_looked')),
    greased         text NOT NULL CHECK (greased IN ('yes', 'no', 'not_looked')),
    count_id        uuid REFERENCES mite_count,              -- the count that read it
    lifted_at       timestamptz CHECK (lifted_at >= placed_at),
    by_person       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK (count_id IS NULL OR lifted_at IS NOT NULL),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX one_board_lies ON insert_board (colony_id) WHERE lifted_at IS NULL;

ALTER TABLE policy
    ADD COLUMN levels jsonb NOT NULL DEFAULT '{}',           -- {school: {phase: {watch, act, urgent}}}, where they differ
    ADD COLUMN stale_after_days integer NOT NULL DEFAULT 21 CHECK (stale_after_days BETWEEN 7 AND 120),
    ADD COLUMN stale_after_days_dormant integer NOT NULL DEFAULT 90 CHECK (stale_after_days_dormant BETWEEN 7 AND 200);

-- What an apiary does otherwise than its association; NULL: as the association. The latest version counts.
CREATE TABLE apiary_policy (
    association_id   uuid NOT NULL,
    apiary_id        uuid NOT NULL,
    version          integer NOT NULL CHECK (version > 0),
    made_at          timestamptz NOT NULL DEFAULT now(),
    made_by          uuid REFERENCES person,
    reason           text NOT NULL DEFAULT '' CHECK (length(reason) <= 400),
    school           text,
    scope            text CHECK (scope IN ('whole_apiary', 'single_colony')),
    calendar         jsonb,
    levels           jsonb,
    PRIMARY KEY (apiary_id, version),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id)
);

DO $$
DECLARE
    follows text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('insert_board', 'colony_id', 'my_colonies'), ('apiary_policy', 'apiary_id', 'my_apiaries'))
        AS t (tab, own, mine)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %I = ANY ((SELECT %I())::uuid[]))',
                          entry.own, entry.mine);
        EXECUTE format('ALTER TABLE %I ENABLE ROW LEVEL SECURITY', entry.tab);
        EXECUTE format('CREATE POLICY seen ON %I FOR SELECT USING (%s)', entry.tab, follows);
        EXECUTE format('CREATE POLICY made ON %I FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('GRANT SELECT, INSERT ON %I TO redframe_app', entry.tab);
    END LOOP;
    EXECUTE format('CREATE POLICY amended ON insert_board FOR UPDATE USING (%s AND (SELECT i_may_write()))',
        'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))');
END $$;
GRANT UPDATE ON insert_board TO redframe_app;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON insert_board FOR EACH ROW EXECUTE FUNCTION keep_trail('');
