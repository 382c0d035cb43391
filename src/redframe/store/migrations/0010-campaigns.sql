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
    created_at      timestamptz NOT NULL DEFAULT now(),
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

-- The cell of the coarse map in which a place lies (docs/methods/count-week.md, "The map").
CREATE FUNCTION coarse_cell(
    latitude double precision, longitude double precision, degrees double precision,
    OUT cell_row integer, OUT cell_column integer
) LANGUAGE sql IMMUTABLE AS $$
    SELECT r, floor(longitude / (degrees / cos(radians((r + 0.5) * degrees))))::integer
    FROM (SELECT floor(latitude / degrees)::integer AS r) AS _ $$;
