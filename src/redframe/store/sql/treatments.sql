-- name: add_courses
-- `courses` is a JSON list: however many are planned together, what follows a write follows once.
INSERT INTO course (id, association_id, apiary_id, colony_id, plan_id, option_id, catalogue_version, policy_version, chemical,
                    start_on, interval_override, dose_quantity, dose_unit, broodless, occupies, honey_clear_on, suitability,
                    overrides, state, is_earlier, treated_for, bars_feed, by_person)
SELECT c.id, my_association(), c.apiary_id, c.colony_id, c.plan_id, c.option_id, c.catalogue_version, c.policy_version, c.chemical,
       c.start_on, c.interval_override, c.dose_quantity, c.dose_unit, c.broodless,
       daterange(c.occupies_from, c.occupies_to, '[]'), c.honey_clear_on, c.suitability, c.overrides, c.state, c.is_earlier,
       c.treated_for, c.bars_feed, my_person()
FROM jsonb_to_recordset(:courses) AS c (id uuid, apiary_id uuid, colony_id uuid, plan_id uuid, option_id text,
    catalogue_version integer, policy_version integer, chemical boolean, start_on date, interval_override integer,
    dose_quantity double precision, dose_unit text, broodless boolean, occupies_from date, occupies_to date,
    honey_clear_on date, suitability jsonb, overrides jsonb, state text, is_earlier boolean, treated_for jsonb,
    bars_feed boolean);

-- name: course
SELECT * FROM course_record WHERE id = :id;

-- name: courses_of_plan
SELECT * FROM course_record WHERE plan_id = :plan_id ORDER BY length(label), label, id;

-- name: courses_of_colonies
-- Newest first.
SELECT * FROM course_record WHERE colony_id = ANY(:colony_ids) ORDER BY start_on DESC, length(label), label, id;

-- name: open_courses_of_colonies
-- Open courses, and those of which something was done on a day.
SELECT * FROM course_record
WHERE colony_id = ANY(:colony_ids)
AND (state IN (SELECT name FROM course_state WHERE is_open)
     OR EXISTS (SELECT FROM course_act a WHERE a.course_id = course_record.id AND a.done_on = :on))
ORDER BY start_on, id;

-- name: brief_courses
-- When treatments were in colonies.
SELECT colony_id, state, placed_on, ended_on FROM course WHERE colony_id = ANY(:colony_ids) AND (placed_on IS NOT NULL OR ended_on IS NOT NULL);

-- name: lock_course
SELECT id FROM course WHERE id = :id FOR UPDATE;

-- name: steps_of_courses
SELECT course_id, name, kind, position, earliest, ideal, latest, first_ideal, hard_stop, after, done
FROM course_step WHERE course_id = ANY(:course_ids) ORDER BY course_id, position;

-- name: acts_of_courses
SELECT id, course_id, step, outcome, done_on, quantity, quantity_unit, lot, lot_id, facts, count_id, supers_on, note, override_by, override_why,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name, created_at, version,
       may_undo(by_person, created_at, version)
       AND NOT EXISTS (SELECT FROM course_act o WHERE o.course_id = course_act.course_id AND o.id <> course_act.id
                       AND o.created_at >= course_act.created_at)
       -- What was entered as given earlier is withdrawn as a whole.
       AND NOT EXISTS (SELECT FROM earlier_treatment e WHERE e.id = course_act.course_id
                       AND e.created_at = course_act.created_at) AS may_undo
FROM course_act WHERE course_id = ANY(:course_ids) ORDER BY course_id, done_on, created_at;

-- name: closings
-- Acts that took supers and feeder off, of courses of these colonies, since a day.
SELECT c.colony_id, c.option_id, a.done_on, a.supers_on, 
       (SELECT one FROM policy p CROSS JOIN jsonb_array_elements(p.treatment_rules -> 'product_labels') AS one
        WHERE p.association_id = c.association_id AND p.version = c.policy_version AND one ->> 'option' = c.option_id
        LIMIT 1) AS product_label
FROM course c JOIN course_act a ON a.course_id = c.id
WHERE c.colony_id = ANY(:colony_ids) AND a.step = 'close_supers_feeder' AND a.outcome = 'done' AND a.done_on >= :since
AND c.state <> 'withdrawn';

-- name: replace_steps
-- `steps` is a JSON list; the plan of record (first_ideal) stays as it was first laid.
INSERT INTO course_step (course_id, association_id, name, kind, position, earliest, ideal, latest, first_ideal, hard_stop,
                         after, done)
SELECT s.course_id, my_association(), s.name, s.kind, s.position, s.earliest, s.ideal, s.latest, s.ideal, s.hard_stop,
       s.after, s.done
FROM jsonb_to_recordset(:steps) AS s (course_id uuid, name text, kind text, position integer, earliest date, ideal date, latest date,
                                      hard_stop boolean, after text, done boolean)
ON CONFLICT (course_id, name) DO UPDATE SET earliest = excluded.earliest, ideal = excluded.ideal,
    latest = excluded.latest, done = excluded.done;

-- name: add_acts
-- `acts` is a JSON list.
INSERT INTO course_act (id, association_id, course_id, step, outcome, done_on, quantity, quantity_unit, lot, lot_id, facts,
                        count_id, supers_on, note, override_by, override_why, by_person)
SELECT a.id, my_association(), a.course_id, a.step, a.outcome, a.done_on, a.quantity, a.quantity_unit, a.lot, a.lot_id, a.facts,
       a.count_id, a.supers_on, a.note, a.override_by, a.override_why, my_person()
FROM jsonb_to_recordset(:acts) AS a (id uuid, course_id uuid, step text, outcome text, done_on date, quantity double precision,
    quantity_unit text, lot text, lot_id uuid, facts jsonb, count_id uuid, supers_on boolean, note text, override_by text,
    override_why text);

-- name: amend_act
UPDATE course_act SET done_on = :done_on, quantity = :quantity, lot = :lot, lot_id = :lot_id, facts = :facts,
       count_id = :count_id, supers_on = :supers_on,
       note = :note
WHERE id = :id AND course_id = :course_id AND version = :version;

-- name: move_course
UPDATE course SET state = :state, occupies = daterange(:occupies_from, :occupies_to, '[]'), placed_on = :placed_on,
       ended_on = :ended_on, honey_clear_on = :honey_clear_on, verdict = :verdict, abandoned_why = :abandoned_why
WHERE id = :id;

-- name: strip_courses
SELECT t.id, t.colony_id, t.option_id, t.state, t.is_open, t.start_on, t.placed_on, t.ended_on, t.honey_clear_on,
       lower(t.occupies) AS occupies_from, upper(t.occupies) - 1 AS occupies_to,
       coalesce((SELECT array_agg(x.done_on ORDER BY x.done_on) FROM course_act x
                 WHERE x.course_id = t.id AND x.step LIKE 'place%%' AND x.outcome = 'done'),
                (SELECT e.doses_on FROM earlier_treatment e WHERE e.id = t.id), '{}') AS placings
FROM course t JOIN colony c ON c.id = t.colony_id
WHERE c.apiary_id = :apiary_id AND upper(t.occupies) >= :since AND t.state NOT IN ('abandoned', 'withdrawn') ORDER BY t.colony_id, t.start_on;

-- name: courses_in_the_way
-- Chemical courses that occupy these colonies on any day between two days: a second one cannot be laid over them.
SELECT id, colony_id, option_id, lower(occupies) AS occupies_from, upper(occupies) - 1 AS occupies_to FROM course
WHERE colony_id = ANY(:colony_ids) AND chemical AND state NOT IN ('abandoned', 'given_earlier', 'withdrawn')
AND occupies && daterange(:since, :until, '[]')
ORDER BY occupies;

-- name: untreated_colonies
-- Living colonies of an apiary in which no chemical was between two days: controls for a verification.
SELECT c.id FROM colony c WHERE c.apiary_id = :apiary_id AND c.is_living
AND NOT EXISTS (SELECT FROM course t WHERE t.colony_id = c.id AND t.chemical AND t.placed_on IS NOT NULL
                AND t.occupies && daterange(:since, :until, '[]'))
ORDER BY c.id;

-- name: outcomes_of_options
-- Courses of these options that were verified, placed since a day, with the apiary that they were planned for.
SELECT id, apiary_id, colony_id, option_id, placed_on, state FROM course
WHERE association_id = my_association() AND option_id = ANY(:option_ids) AND placed_on >= :since
AND state IN ('verified_worked', 'verified_partly', 'verified_failed');

-- name: verified_courses
-- Courses that were checked, placed since a day, with the counts before and after and how neighbours changed.
SELECT id, apiary_id, option_id, placed_on, state, (verdict ->> 'why_not') AS why_not,
       (verdict #>> '{pre,mites}')::integer AS mites_before, (verdict #>> '{pre,bees}')::double precision AS bees_before,
       (verdict #>> '{post,mites}')::integer AS mites_after, (verdict #>> '{post,bees}')::double precision AS bees_after,
       (verdict #>> '{neighbours,before}')::double precision AS neighbours_before,
       (verdict #>> '{neighbours,after}')::double precision AS neighbours_after
FROM course WHERE association_id = my_association() AND placed_on >= :since AND verdict IS NOT NULL
AND state IN ('verified_worked', 'verified_partly', 'verified_failed', 'verified_cannot_tell')
ORDER BY placed_on, id;

-- name: undo_act
SELECT undo_act(:id);
