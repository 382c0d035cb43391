-- Counts as they were taken; what they say is derived, kept beside them, and computed again when the model changes.

CREATE TABLE mite_count (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    taken_at        timestamptz NOT NULL,
    taken_on        date NOT NULL,                 -- the day in the association's time zone
    method          text NOT NULL CHECK (method IN
                    ('wash', 'sugar', 'co2', 'board', 'board_after_treatment', 'drone_brood', 'look')),
    brood_state     text NOT NULL CHECK (brood_state IN ('open_and_capped', 'capped_only', 'none', 'not_seen')),
    -- chosen because it was likely to be over or to tell most: judged by its count, left out of the apiary's mean
    targeted        boolean NOT NULL DEFAULT false,
    -- jars
    shakes          integer[] CHECK (cardinality(shakes) BETWEEN 1 AND 8 AND 0 <= ALL (shakes)),
    bees_known_by   text CHECK (bees_known_by IN
                    ('counted', 'photo', 'volume_level', 'volume_heaped', 'mass_dry', 'not_recorded')),
    bees            integer CHECK (bees BETWEEN 1 AND 5000),
    volume_ml       double precision CHECK (volume_ml BETWEEN 5 AND 1000),
    mass_g          double precision CHECK (mass_g BETWEEN 1 AND 500),
    place_of_bees   text CHECK (place_of_bees IN ('brood_frame', 'other_brood_box', 'super', 'entrance', 'unknown')),
    queen_safe      text CHECK (queen_safe IN ('yes', 'no', 'not_looked')),
    rested_s        integer CHECK (rested_s BETWEEN 0 AND 7200),
    wet             text CHECK (wet IN ('yes', 'no', 'not_looked')),
    -- boards
    placed_at       timestamptz,
    squares         integer[] CHECK (cardinality(squares) BETWEEN 1 AND 400 AND 0 <= ALL (squares)),
    squares_in_all  integer CHECK (squares_in_all BETWEEN 1 AND 400),
    cleaned         text CHECK (cleaned IN ('yes', 'no', 'not_looked')),
    greased         text CHECK (greased IN ('yes', 'no', 'not_looked')),
    ants            text CHECK (ants IN ('yes', 'no', 'not_looked')),
    -- drone brood
    cells_opened    integer CHECK (cells_opened BETWEEN 1 AND 5000),
    cells_infested  integer CHECK (cells_infested BETWEEN 0 AND cells_opened),
    mites_in_cells  integer CHECK (mites_in_cells >= cells_infested),
    patches         integer CHECK (patches BETWEEN 1 AND 50),
    -- bees looked at
    mites_seen      boolean,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    CHECK ((bees IS NOT NULL) = (bees_known_by IN ('counted', 'photo'))),
    CHECK ((volume_ml IS NOT NULL) = (bees_known_by IN ('volume_level', 'volume_heaped'))),
    CHECK ((mass_g IS NOT NULL) = (bees_known_by = 'mass_dry')),
    CONSTRAINT mite_count_jar CHECK (
        CASE WHEN method IN ('wash', 'sugar', 'co2')
             THEN num_nonnulls(shakes, bees_known_by, place_of_bees, queen_safe) = 4
             ELSE num_nonnulls(shakes, bees_known_by, bees, volume_ml, mass_g, place_of_bees, queen_safe, rested_s, wet) = 0 END),
    CONSTRAINT mite_count_roll CHECK (method = 'wash' OR cardinality(shakes) = 1),
    CONSTRAINT mite_count_sugar CHECK ((method = 'sugar') = (wet IS NOT NULL) AND (method = 'sugar' OR rested_s IS NULL)),
    CONSTRAINT mite_count_board CHECK (
        CASE WHEN method IN ('board', 'board_after_treatment')
             THEN num_nonnulls(placed_at, squares, squares_in_all, cleaned, greased, ants) = 6
                  AND placed_at < taken_at AND cardinality(squares) <= squares_in_all
             ELSE num_nonnulls(placed_at, squares, squares_in_all, cleaned, greased, ants) = 0 END),
    CONSTRAINT mite_count_drone CHECK (
        CASE WHEN method = 'drone_brood' THEN num_nonnulls(cells_opened, cells_infested) = 2
             ELSE num_nonnulls(cells_opened, cells_infested, mites_in_cells, patches) = 0 END),
    CONSTRAINT mite_count_look CHECK ((method = 'look') = (mites_seen IS NOT NULL))
);
CREATE INDEX mite_count_by_colony ON mite_count (colony_id, taken_on DESC);

-- Derived: what a count says, with its interval. No row where it says nothing.
CREATE TABLE count_reading (
    count_id        uuid PRIMARY KEY REFERENCES mite_count,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    model           integer NOT NULL,
    scale           text NOT NULL CHECK (scale IN ('mites_per_100', 'mites_per_day', 'percent_of_cells')),
    mites           integer NOT NULL,
    bees_mean       double precision,
    bees_cv         double precision,
    recovery        text,
    board_days      double precision CHECK (board_days > 0),
    board_cv        double precision CHECK (board_cv >= 0),
    as_counted      double precision NOT NULL,
    median          double precision NOT NULL,
    low             double precision NOT NULL,
    high            double precision NOT NULL,
    upper80         double precision NOT NULL,
    CHECK ((scale = 'mites_per_100') = (num_nonnulls(bees_mean, bees_cv, recovery) = 3)),
    CHECK ((scale = 'mites_per_day') = (num_nonnulls(board_days, board_cv) = 2)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX count_reading_by_colony ON count_reading (colony_id);

-- A board under a colony that waits to be read.
CREATE TABLE insert_board (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    placed_at       timestamptz NOT NULL,
    cleaned         text NOT NULL CHECK (cleaned IN ('yes', 'no', 'not_looked')),
    greased         text NOT NULL CHECK (greased IN ('yes', 'no', 'not_looked')),
    count_id        uuid REFERENCES mite_count,              -- the count that read it
    removed_at      timestamptz CHECK (removed_at >= placed_at),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK (count_id IS NULL OR removed_at IS NOT NULL),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE UNIQUE INDEX one_board_a_colony ON insert_board (colony_id) WHERE removed_at IS NULL;

-- A picture of a board, what was found on it by the program, and what a person made of that: accepted, struck, added.
CREATE TABLE board_picture (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    width           integer NOT NULL CHECK (width > 0),
    height          integer NOT NULL CHECK (height > 0),
    width_mm        double precision NOT NULL CHECK (width_mm BETWEEN 20 AND 2000),
    grid_columns    integer NOT NULL CHECK (grid_columns BETWEEN 1 AND 20),
    grid_rows       integer NOT NULL CHECK (grid_rows BETWEEN 1 AND 20),
    picture         bytea NOT NULL,
    candidates      jsonb NOT NULL,                -- [{x, y, length_mm, score}]
    finder          integer NOT NULL,              -- version of the program that found them
    marks           jsonb,                         -- [{x, y, found, kept}], once counted
    counted         integer[],                     -- squares that were counted, row by row from 0
    count_id        uuid REFERENCES mite_count,
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    CHECK ((count_id IS NULL) = (marks IS NULL) AND (count_id IS NULL) = (counted IS NULL)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
ALTER TABLE board_picture ALTER COLUMN picture SET STORAGE EXTERNAL;
CREATE INDEX board_picture_by_count ON board_picture (count_id) WHERE count_id IS NOT NULL;
CREATE INDEX board_picture_by_colony ON board_picture (colony_id);
