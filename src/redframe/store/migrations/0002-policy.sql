-- What an association judges and treats by. A change is a new version; decisions keep the version they were taken under.
CREATE TABLE policy (
    association_id            uuid NOT NULL REFERENCES association,
    version                   integer NOT NULL CHECK (version > 0),
    created_at                timestamptz NOT NULL DEFAULT now(),
    created_by                uuid REFERENCES person,
    scheme                    text NOT NULL,
    threshold_basis           text NOT NULL DEFAULT 'corrected' CHECK (threshold_basis IN ('corrected', 'as_counted')),
    scope                     text NOT NULL DEFAULT 'whole_apiary' CHECK (scope IN ('whole_apiary', 'single_colony')),
    calendar                  jsonb NOT NULL,
    levels                    jsonb NOT NULL DEFAULT '{}',    -- {scheme: {phase: {watch, act, urgent}}}, where they differ
    stale_after_days          integer NOT NULL DEFAULT 21 CHECK (stale_after_days BETWEEN 7 AND 120),
    stale_after_days_dormant  integer NOT NULL DEFAULT 90 CHECK (stale_after_days_dormant BETWEEN 7 AND 200),
    treatment_rules           jsonb NOT NULL DEFAULT '{}',
    scoops                    jsonb NOT NULL DEFAULT '[]' CHECK (jsonb_typeof(scoops) = 'array'),  -- [{ml, bees}]
    PRIMARY KEY (association_id, version)
);
