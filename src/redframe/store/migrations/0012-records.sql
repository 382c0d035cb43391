-- What screens read of a record, in one row: the columns of the dataclasses in store, listed once. A view sees what the
-- person who asks may see.

-- A course with the names that every screen shows with it, at the place where its colony stands now, and what spoke
-- against it or for care on the day of the decision.
CREATE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id, t.policy_version, t.start_on,
       t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on, t.ended_on, t.honey_clear_on,
       t.suitability->'reasons' AS reasons, t.overrides, t.verdict, t.abandoned_why,
       coalesce(name_of(t.by_person), '') AS by_name, t.created_at, t.version
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;

-- A count with what it says.
CREATE VIEW count_record WITH (security_invoker = true) AS
SELECT m.id, m.colony_id, m.method, m.taken_at, m.taken_on, m.shakes, m.bees_known_by, m.bees, m.volume_ml, m.mass_g,
       m.place_of_bees, m.brood_state, m.queen_safe, m.rested_s, m.wet, m.placed_at, m.squares, m.squares_in_all,
       m.cleaned, m.greased, m.ants, m.cells_opened, m.cells_infested, m.mites_in_cells, m.patches, m.mites_seen,
       m.targeted, m.note, coalesce(name_of(m.by_person), '') AS by_name, m.created_at, m.version,
       (SELECT p.id FROM board_picture p WHERE p.count_id = m.id) AS picture_id, r.scale, r.mites, r.board_days,
       r.board_cv, r.bees_mean, r.bees_cv, r.recovery, r.as_counted, r.median, r.low, r.high, r.upper80
FROM mite_count m LEFT JOIN count_reading r ON r.count_id = m.id;

GRANT SELECT ON course_record, count_record TO redframe_app;
