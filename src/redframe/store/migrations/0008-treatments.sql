-- Treatment courses: one option on one colony, its dated steps, and what was really done.

-- States with their properties; `core/treatments/states.py` holds the same table, and a test that the two agree.
CREATE TABLE course_state (
    name     text PRIMARY KEY,
    is_open  boolean NOT NULL,
    UNIQUE (name, is_open)
);
INSERT INTO course_state VALUES
    ('planned', true), ('under_way', true), ('awaiting_verification', true), ('awaiting_outcome', true), ('verified_worked', false),
    ('verified_partly', false), ('verified_failed', false), ('verified_cannot_tell', false), ('abandoned', false);

CREATE TABLE course (
    id                 uuid PRIMARY KEY,
    association_id     uuid NOT NULL,
    apiary_id          uuid NOT NULL,               -- where it was planned
    colony_id          uuid NOT NULL,
    plan_id            uuid NOT NULL,               -- courses planned together share it
    option_id          text NOT NULL,
    catalogue_version  integer NOT NULL,
    policy_version     integer NOT NULL,
    chemical           boolean NOT NULL,
    start_on           date NOT NULL,
    interval_override  integer CHECK (interval_override BETWEEN 1 AND 60),
    state              text NOT NULL DEFAULT 'planned',
    is_open            boolean NOT NULL DEFAULT true,    -- follows the state
    dose_quantity      double precision NOT NULL CHECK (dose_quantity > 0),
    dose_unit          text NOT NULL,
    broodless          boolean NOT NULL,
    occupies           daterange NOT NULL,          -- first placing to the end of the course
    placed_on          date,
    ended_on           date,
    honey_clear_on     date,
    suitability        jsonb NOT NULL,              -- verdict and reasons on the day of the decision
    overrides          jsonb NOT NULL DEFAULT '[]',
    verdict            jsonb,
    abandoned_why      text NOT NULL DEFAULT '',
    by_person          uuid REFERENCES person,
    created_at         timestamptz NOT NULL DEFAULT now(),
    version            integer NOT NULL DEFAULT 1,
    UNIQUE (association_id, id),
    FOREIGN KEY (state, is_open) REFERENCES course_state (name, is_open),
    FOREIGN KEY (association_id, apiary_id) REFERENCES apiary (association_id, id),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, policy_version) REFERENCES policy (association_id, version),
    -- Two chemical courses never overlap in one colony.
    CONSTRAINT one_chemical_course EXCLUDE USING gist (colony_id WITH =, occupies WITH &&)
        WHERE (chemical AND state <> 'abandoned')
);
CREATE INDEX course_by_colony ON course (colony_id, start_on);
CREATE INDEX course_by_apiary ON course (apiary_id, state);
CREATE INDEX course_by_plan ON course (plan_id);
CREATE INDEX course_open ON course (association_id, state) WHERE is_open;

CREATE FUNCTION follow_course_state() RETURNS trigger LANGUAGE plpgsql AS $$
BEGIN
    NEW.is_open := (SELECT is_open FROM course_state WHERE name = NEW.state);
    RETURN NEW;
END $$;
CREATE TRIGGER follow_state BEFORE INSERT OR UPDATE OF state ON course FOR EACH ROW EXECUTE FUNCTION follow_course_state();

-- The plan of record (`first_*`) stays beside the dates that move with what is done.
CREATE TABLE course_step (
    course_id       uuid NOT NULL,
    association_id  uuid NOT NULL,
    name            text NOT NULL,
    kind            text NOT NULL,
    position        integer NOT NULL,
    earliest        date NOT NULL,
    ideal           date NOT NULL,
    latest          date NOT NULL,
    first_ideal     date NOT NULL,
    hard_stop       boolean NOT NULL,
    after           text,
    done            boolean NOT NULL DEFAULT false,
    PRIMARY KEY (course_id, name),
    CHECK (earliest <= ideal AND ideal <= latest),
    FOREIGN KEY (association_id, course_id) REFERENCES course (association_id, id)
);
CREATE INDEX course_step_due ON course_step (association_id, ideal) WHERE NOT done;

CREATE TABLE course_act (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    course_id       uuid NOT NULL,
    step            text NOT NULL,
    outcome         text NOT NULL CHECK (outcome IN ('done', 'skipped')),
    done_on         date NOT NULL,
    quantity        double precision CHECK (quantity > 0),
    quantity_unit   text,
    lot             text NOT NULL DEFAULT '' CHECK (length(lot) <= 80),
    count_id        uuid,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    override_by     text NOT NULL DEFAULT '' CHECK (length(override_by) <= 120),
    override_why    text NOT NULL DEFAULT '' CHECK (length(override_why) <= 2000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CONSTRAINT one_act_a_step UNIQUE (course_id, step),
    FOREIGN KEY (association_id, course_id) REFERENCES course (association_id, id),
    FOREIGN KEY (association_id, count_id) REFERENCES mite_count (association_id, id)
);
