-- A dose of an option that bars feeding is not placed on a hive that is being fed. The rule is the core's
-- (docs/methods/eligibility.md, T52); this holds it where two write at once, or by another way.
ALTER TABLE course ADD COLUMN bars_feed boolean NOT NULL DEFAULT false;

-- Only a last day that says nothing but "fed" is refused: of two records of one day the application knows which was later.
-- 42 days: so long what was seen of feed is taken to be so (SET_UP_HOLDS_DAYS).
CREATE FUNCTION refuse_dose_on_feed() RETURNS trigger LANGUAGE plpgsql AS $$
DECLARE
    its course;
BEGIN
    SELECT * INTO its FROM course WHERE id = NEW.course_id;
    IF its.bars_feed AND (
        SELECT bool_and(known.fed) FROM (
            SELECT said.fed, rank() OVER (ORDER BY said.on_day DESC) AS turn
            FROM (
                SELECT v.fed, v.visited_on AS on_day FROM visit v
                WHERE v.colony_id = its.colony_id AND v.state = 'closed' AND v.fed IS NOT NULL
                UNION ALL
                SELECT true, h.done_on FROM hive_act h
                WHERE h.colony_id = its.colony_id AND h.fed AND h.withdrawn_why = ''
                UNION ALL
                SELECT false, a.done_on FROM course_act a JOIN course t ON t.id = a.course_id
                WHERE t.colony_id = its.colony_id AND t.bars_feed AND t.state <> 'withdrawn'
                AND a.step = 'close_supers_feeder' AND a.outcome = 'done'
            ) said
            WHERE said.on_day BETWEEN NEW.done_on - 42 AND NEW.done_on
        ) known WHERE known.turn = 1
    ) THEN
        RAISE EXCEPTION 'this hive is being fed' USING ERRCODE = 'check_violation', CONSTRAINT = 'dose_not_on_feed';
    END IF;
    RETURN NEW;
END $$;
CREATE TRIGGER not_on_feed BEFORE INSERT ON course_act FOR EACH ROW
    WHEN (NEW.outcome = 'done' AND NEW.step LIKE 'place\_%' AND NEW.override_why = '')
    EXECUTE FUNCTION refuse_dose_on_feed();
