-- A colony that was recorded as dead by mistake lives again: its examination is of the past, and what was excluded for it
-- does not hold for the day on which it dies.
ALTER TABLE deadout ADD COLUMN is_past boolean NOT NULL DEFAULT false;
DROP INDEX one_deadout_a_colony;
CREATE UNIQUE INDEX one_deadout_a_colony ON deadout (colony_id) WHERE state <> 'dropped' AND NOT is_past;

CREATE FUNCTION end_deadouts() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    why text := coalesce(current_setting('redframe.reason', true), '');
BEGIN
    PERFORM set_config('redframe.reason', 'the colony lives after all', true);
    UPDATE deadout SET is_past = true WHERE colony_id = NEW.id AND NOT is_past;
    UPDATE foulbrood_exclusion SET withdrawn_on = greatest(NEW.state_since, excluded_on), withdrawn_why = 'the colony lives after all'
    WHERE colony_id = NEW.id AND withdrawn_on IS NULL;
    PERFORM set_config('redframe.reason', why, true);
    RETURN NULL;
END $$;
REVOKE EXECUTE ON FUNCTION end_deadouts() FROM public;
CREATE TRIGGER lives_after_all AFTER UPDATE ON colony FOR EACH ROW WHEN (NEW.is_living AND NOT OLD.is_living)
    EXECUTE FUNCTION end_deadouts();
