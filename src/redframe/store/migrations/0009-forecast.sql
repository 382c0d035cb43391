-- The forecast of every colony, computed in the background: runs with their progress, and how earlier forecasts did.

CREATE TABLE forecast_run (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    asked_by        uuid REFERENCES person,        -- NULL: by itself, at night
    asked_at        timestamptz NOT NULL DEFAULT now(),
    for_day         date NOT NULL,
    state           text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed')),
    colonies        integer NOT NULL DEFAULT 0,
    done            integer NOT NULL DEFAULT 0 CHECK (done BETWEEN 0 AND colonies),
    finished_at     timestamptz,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 400)
);
CREATE INDEX forecast_run_latest ON forecast_run (association_id, asked_at DESC);
CREATE UNIQUE INDEX one_forecast_run ON forecast_run (association_id) WHERE state IN ('waiting', 'running');

CREATE TABLE colony_forecast (
    colony_id       uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    run_id          uuid NOT NULL REFERENCES forecast_run,
    for_day         date NOT NULL,
    counted_on      date NOT NULL,                 -- the latest count that it knows
    act_per_100     double precision NOT NULL,
    median          double precision[] NOT NULL,   -- every third day from for_day on
    low80           double precision[] NOT NULL,
    high80          double precision[] NOT NULL,
    date10          date,
    date50          date,
    date90          date,
    p_over_ahead    double precision NOT NULL CHECK (p_over_ahead BETWEEN -1e-6 AND 1.000001),
    danger_from     date,
    effective       double precision NOT NULL,
    disagree        boolean NOT NULL,
    CHECK (cardinality(median) = cardinality(low80) AND cardinality(median) = cardinality(high80)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX colony_forecast_soonest ON colony_forecast (association_id, date50, p_over_ahead DESC);

-- Later counts set against what was predicted of them, summed up.
CREATE TABLE forecast_evaluation (
    association_id  uuid NOT NULL REFERENCES association,
    between         text NOT NULL CHECK (between IN ('untreated', 'treated')),   -- was a treatment in it meanwhile
    looked_on       date NOT NULL,
    since           date NOT NULL,
    counts          integer NOT NULL CHECK (counts > 0),
    days            double precision NOT NULL,
    held50          double precision NOT NULL CHECK (held50 BETWEEN 0 AND 1),
    held80          double precision NOT NULL CHECK (held80 BETWEEN 0 AND 1),
    held95          double precision NOT NULL CHECK (held95 BETWEEN 0 AND 1),
    above           double precision NOT NULL CHECK (above BETWEEN 0 AND 1),
    happened        double precision NOT NULL CHECK (happened BETWEEN 0 AND 1),
    brier           double precision NOT NULL CHECK (brier BETWEEN 0 AND 1),
    brier_stays     double precision NOT NULL CHECK (brier_stays BETWEEN 0 AND 1),
    brier_one_rate  double precision NOT NULL CHECK (brier_one_rate BETWEEN 0 AND 1),
    PRIMARY KEY (association_id, between)
);
