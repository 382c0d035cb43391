-- Count weeks: who is invited, when, by which protocol. Their counts are the counts of those days.
CREATE TABLE count_week (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL REFERENCES association,
    name            text NOT NULL CHECK (length(name) BETWEEN 1 AND 120),
    first_on        date NOT NULL,
    last_on         date NOT NULL,
    method          text NOT NULL CHECK (method IN ('wash', 'sugar', 'co2')),
    half_width      double precision NOT NULL DEFAULT 0.4 CHECK (half_width > 0.05 AND half_width <= 2),
    protocol        text NOT NULL DEFAULT '' CHECK (length(protocol) <= 2000),
    opened_by       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK (last_on BETWEEN first_on AND first_on + 20),
    UNIQUE (association_id, id)
);
CREATE INDEX count_week_by_day ON count_week (association_id, first_on DESC);

CREATE TABLE count_week_keeper (
    week_id         uuid NOT NULL,
    keeper_id       uuid NOT NULL REFERENCES keeper,
    association_id  uuid NOT NULL,
    reminders       integer NOT NULL DEFAULT 0,
    reminded_at     timestamptz,
    PRIMARY KEY (week_id, keeper_id),
    FOREIGN KEY (association_id, week_id) REFERENCES count_week (association_id, id)
);

ALTER TABLE count_week ENABLE ROW LEVEL SECURITY;
CREATE POLICY mine ON count_week FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY made ON count_week FOR INSERT
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
CREATE POLICY amended ON count_week FOR UPDATE
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE ON count_week TO redframe_app;
CREATE TRIGGER trail BEFORE INSERT OR UPDATE ON count_week FOR EACH ROW EXECUTE FUNCTION keep_trail('');

ALTER TABLE count_week_keeper ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON count_week_keeper FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR keeper_id = (SELECT my_keeper())));
CREATE POLICY kept ON count_week_keeper FOR ALL
    USING (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()))
    WITH CHECK (association_id = (SELECT my_association()) AND (SELECT i_keep_the_house()));
GRANT SELECT, INSERT, UPDATE, DELETE ON count_week_keeper TO redframe_app;

-- The apiaries' mean rates of some days, as bare figures: what a keeper may set the own apiary against. Nothing where
-- fewer than three keepers counted.
CREATE FUNCTION apiary_rates_between(first_on date, last_on date) RETURNS TABLE (rate double precision)
    LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    WITH latest AS (
        SELECT DISTINCT ON (m.colony_id) m.colony_id, r.median FROM mite_count m JOIN count_reading r ON r.count_id = m.id
        WHERE m.association_id = my_association() AND m.taken_on BETWEEN first_on AND last_on AND r.scale = 'mites_per_100'
        ORDER BY m.colony_id, m.taken_at DESC, m.made_at DESC, m.id
    ), apiaries AS (
        SELECT c.apiary_id, a.keeper_id, avg(l.median) AS rate FROM latest l JOIN colony c ON c.id = l.colony_id
        JOIN apiary a ON a.id = c.apiary_id GROUP BY 1, 2
    )
    SELECT rate FROM apiaries WHERE (SELECT count(DISTINCT keeper_id) FROM apiaries) >= 3 ORDER BY rate $$;
REVOKE EXECUTE ON FUNCTION apiary_rates_between(date, date) FROM public;
GRANT EXECUTE ON FUNCTION apiary_rates_between(date, date) TO redframe_app;
