-- Derived: how every colony is judged, computed again whenever a count, a course or a policy bears on it.

CREATE TABLE level (name text PRIMARY KEY, attention integer NOT NULL UNIQUE, is_over boolean NOT NULL);
INSERT INTO level VALUES ('urgent', 1, true), ('act', 2, true), ('unknown', 3, false), ('watch', 4, false), ('clear', 5, false);

-- The latest count of a colony and when to count again.
CREATE TABLE outlook (
    colony_id        uuid PRIMARY KEY,
    association_id   uuid NOT NULL,
    count_id         uuid NOT NULL REFERENCES mite_count,
    counted_on       date NOT NULL,
    scale            text NOT NULL,
    recovery         text,
    mites            integer NOT NULL,
    bees_mean        double precision,
    median           double precision NOT NULL,
    low              double precision NOT NULL,
    high             double precision NOT NULL,
    recount_on       date NOT NULL,
    policy_version   integer NOT NULL,
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX outlook_due ON outlook (association_id, recount_on);

-- The level of a colony from its latest count on, one row a change of level; a colony without a row is unknown.
CREATE TABLE colony_status (
    colony_id       uuid NOT NULL,
    association_id  uuid NOT NULL,
    since           date NOT NULL,
    until           date CHECK (until > since),
    level           text NOT NULL REFERENCES level,
    reason          text NOT NULL,
    phase           text NOT NULL,
    act_at          double precision NOT NULL,    -- in the unit of the scheme
    scheme          text NOT NULL,
    overdue_from    date,
    PRIMARY KEY (colony_id, since),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX colony_status_by_level ON colony_status (association_id, level, since);
