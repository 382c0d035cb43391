-- What comes of every colony, computed in the background: runs with their progress, and the outlook of each colony.
CREATE TABLE forecast_run (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    asked_by        uuid REFERENCES person,        -- NULL: by itself, at night
    asked_at        timestamptz NOT NULL DEFAULT now(),
    for_day         date NOT NULL,
    state           text NOT NULL DEFAULT 'waiting' CHECK (state IN ('waiting', 'running', 'done', 'failed')),
    colonies        integer NOT NULL DEFAULT 0 CHECK (colonies >= 0),
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

ALTER TABLE forecast_run ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON forecast_run USING (association_id = (SELECT my_association()))
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE ON forecast_run TO redframe_app;

ALTER TABLE colony_forecast ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON colony_forecast FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR colony_id = ANY ((SELECT my_colonies())::uuid[])));
CREATE POLICY made ON colony_forecast FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY laid ON colony_forecast FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY lifted ON colony_forecast FOR DELETE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE, DELETE ON colony_forecast TO redframe_app;

-- For the work of the night, which nobody has asked for: which associations there are, and when their day begins.
CREATE FUNCTION associations_at_night() RETURNS TABLE (association_id uuid, timezone text)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT id, timezone FROM association ORDER BY id $$;
REVOKE EXECUTE ON FUNCTION associations_at_night() FROM public;
GRANT EXECUTE ON FUNCTION associations_at_night() TO redframe_app;
