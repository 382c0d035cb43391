-- Boxes that came onto a hive or left it while a hold stood against it are kept with what was set aside, and why.
ALTER TABLE colony_event DROP CONSTRAINT colony_event_kind_check, ADD CONSTRAINT colony_event_kind_check
    CHECK (kind IN ('started', 'split_from', 'merged_into', 'renumbered', 'moved', 'state', 'boxes'));
