-- How earlier forecasts of an association did: later counts set against what was foretold of them, summed up.
CREATE TABLE forecast_hindsight (
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
ALTER TABLE forecast_hindsight ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON forecast_hindsight FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY made ON forecast_hindsight FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY laid ON forecast_hindsight FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY lifted ON forecast_hindsight FOR DELETE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE, DELETE ON forecast_hindsight TO redframe_app;
