-- Mite counts as they were taken; what they say is derived, kept beside them, and computed again when the model changes.

CREATE TABLE mite_count (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    taken_at        timestamptz NOT NULL,
    taken_on        date NOT NULL,                 -- the day in the association's time zone
    method          text NOT NULL DEFAULT 'wash' CHECK (method = 'wash'),
    shakes          integer[] NOT NULL CHECK (cardinality(shakes) BETWEEN 1 AND 8 AND 0 <= ALL (shakes)),
    bees_known_by   text NOT NULL CHECK (bees_known_by IN
                    ('counted', 'photo', 'volume_level', 'volume_heaped', 'mass_dry', 'not_recorded')),
    bees            integer CHECK (bees BETWEEN 1 AND 5000),
    volume_ml       double precision CHECK (volume_ml BETWEEN 5 AND 1000),
    mass_g          double precision CHECK (mass_g BETWEEN 1 AND 500),
    place_of_bees   text NOT NULL CHECK (place_of_bees IN ('brood_frame', 'other_brood_box', 'super', 'entrance', 'unknown')),
    brood_state     text NOT NULL CHECK (brood_state IN ('open_and_capped', 'capped_only', 'none', 'not_seen')),
    queen_safe      text NOT NULL CHECK (queen_safe IN ('yes', 'no', 'not_looked')),
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    by_person       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CHECK ((bees IS NOT NULL) = (bees_known_by IN ('counted', 'photo'))),
    CHECK ((volume_ml IS NOT NULL) = (bees_known_by IN ('volume_level', 'volume_heaped'))),
    CHECK ((mass_g IS NOT NULL) = (bees_known_by = 'mass_dry')),
    UNIQUE (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX mite_count_by_colony ON mite_count (colony_id, taken_on DESC);

-- Derived: mites per 100 bees with interval. No row where the bees are not known.
CREATE TABLE count_reading (
    count_id        uuid PRIMARY KEY REFERENCES mite_count,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    model           integer NOT NULL,
    mites           integer NOT NULL,
    bees_mean       double precision NOT NULL,
    bees_cv         double precision NOT NULL,
    recovery        text NOT NULL,
    as_counted      double precision NOT NULL,
    median          double precision NOT NULL,
    low             double precision NOT NULL,
    high            double precision NOT NULL,
    upper80         double precision NOT NULL,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX count_reading_by_colony ON count_reading (colony_id);

CREATE TABLE level (name text PRIMARY KEY, attention integer NOT NULL UNIQUE);
INSERT INTO level VALUES ('urgent', 1), ('act', 2), ('unknown', 3), ('watch', 4), ('clear', 5);

-- Derived: the latest count of a colony and when to count again.
CREATE TABLE outlook (
    colony_id        uuid PRIMARY KEY,
    association_id   uuid NOT NULL,
    count_id         uuid NOT NULL REFERENCES mite_count,
    counted_on       date NOT NULL,
    mites            integer NOT NULL,
    bees_mean        double precision NOT NULL,
    median           double precision NOT NULL,
    low              double precision NOT NULL,
    high             double precision NOT NULL,
    recount_on       date NOT NULL,
    policy_version   integer NOT NULL,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX outlook_due ON outlook (association_id, recount_on);

-- Derived: the standing of a colony from its latest count on, one row a change of level; a colony without a row is unknown.
CREATE TABLE standing (
    colony_id       uuid NOT NULL,
    association_id  uuid NOT NULL,
    since           date NOT NULL,
    until           date CHECK (until > since),
    level           text NOT NULL REFERENCES level,
    reason          text NOT NULL,
    phase           text NOT NULL,
    act_per_100     double precision NOT NULL,
    overdue_from    date,
    PRIMARY KEY (colony_id, since),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX standing_by_level ON standing (association_id, level, since);
