-- name: counts_to_forecast
-- The latest jars, and the latest clean boards, of living colonies of the last months, oldest first: at most so many of
-- each kind, and only where the last of all is not too old to start from.
SELECT t.colony_id, t.taken_on, t.taken_at, t.mites, t.bees_mean, t.bees_cv, t.recovery, t.placed_at, t.board_days, t.board_cv
FROM (SELECT m.colony_id, m.taken_on, m.taken_at, r.mites, r.bees_mean, r.bees_cv, r.recovery, m.placed_at, r.board_days,
             r.board_cv,
             row_number() OVER (PARTITION BY m.colony_id, r.scale ORDER BY m.taken_at DESC, m.created_at DESC, m.id) AS latest,
             max(m.taken_on) OVER (PARTITION BY m.colony_id) AS last_on
      FROM mite_count m JOIN count_reading r ON r.count_id = m.id
      WHERE m.taken_on > :since AND (r.scale = 'mites_per_100' OR m.method = 'board' AND m.cleaned = 'yes')) t
JOIN colony c ON c.id = t.colony_id AND c.is_living
WHERE t.latest <= :most AND t.last_on >= :last_since ORDER BY t.colony_id, t.taken_at;

-- name: courses_to_forecast
SELECT colony_id, option_id, state, start_on, placed_on, ended_on,
       CASE WHEN is_earlier THEN (SELECT e.outcome FROM earlier_treatment e WHERE e.id = course.id) END AS said_outcome
FROM course WHERE (state NOT IN ('abandoned', 'withdrawn') OR placed_on IS NOT NULL) AND (ended_on IS NULL OR ended_on >= :since);

-- name: fail_runs_given_up
-- A run and its job are asked for together: one that has no job any more is worked at by nobody.
UPDATE forecast_run r SET state = 'failed', finished_at = now(), note = 'its computation was given up'
WHERE r.association_id = my_association() AND r.state IN ('waiting', 'running')
AND NOT EXISTS (SELECT FROM procrastinate_jobs j WHERE j.task_name = :task AND j.status IN ('todo', 'doing')
                AND j.args ->> 'run_id' = r.id::text);

-- name: ask_for_run
INSERT INTO forecast_run (id, association_id, asked_by, for_day) VALUES (:id, my_association(), :asked_by, :for_day)
ON CONFLICT (association_id) WHERE state IN ('waiting', 'running') DO NOTHING;

-- name: latest_run
SELECT id,
       coalesce((SELECT name FROM member WHERE member.id = asked_by), '') AS asked_by_name, asked_at, for_day, state, colonies, done, finished_at, note
FROM forecast_run WHERE association_id = my_association() ORDER BY asked_at DESC, id LIMIT 1;

-- name: begin_run
UPDATE forecast_run SET state = 'running', colonies = :colonies, done = 0 WHERE id = :id;

-- name: move_run
UPDATE forecast_run SET done = :done WHERE id = :id;

-- name: end_run
UPDATE forecast_run SET state = :state, finished_at = now(), note = :note WHERE id = :id AND state IN ('waiting', 'running');

-- name: replace_forecasts
-- `rows` is a JSON list.
INSERT INTO colony_forecast (colony_id, association_id, run_id, for_day, counted_on, act_per_100, median, low80, high80,
                             date10, date50, date90, p_over_ahead, danger_from, effective, disagree)
SELECT f.colony_id, my_association(), :run_id, :for_day, f.counted_on, f.act_per_100, f.median, f.low80, f.high80, f.date10,
       f.date50, f.date90, f.p_over_ahead, f.danger_from, f.effective, f.disagree
FROM jsonb_to_recordset(:rows) AS f (colony_id uuid, counted_on date, act_per_100 double precision,
    median double precision[], low80 double precision[], high80 double precision[], date10 date, date50 date, date90 date,
    p_over_ahead double precision, danger_from date, effective double precision, disagree boolean)
ON CONFLICT (colony_id) DO UPDATE SET run_id = excluded.run_id, for_day = excluded.for_day,
    counted_on = excluded.counted_on, act_per_100 = excluded.act_per_100, median = excluded.median, low80 = excluded.low80,
    high80 = excluded.high80, date10 = excluded.date10, date50 = excluded.date50, date90 = excluded.date90,
    p_over_ahead = excluded.p_over_ahead, danger_from = excluded.danger_from, effective = excluded.effective,
    disagree = excluded.disagree;

-- name: delete_old_forecasts
DELETE FROM colony_forecast WHERE run_id <> :run_id;

-- name: colonies_to_list
-- Living colonies with how they stand. By forecast: those over already first,
-- then by the day, then by the chance, those without a forecast last. The other orders are those of the columns.
SELECT c.id AS colony_id, c.label, c.apiary_id, a.name AS apiary, k.name AS keeper,
       coalesce(s.level, 'unknown') AS level, o.median AS rate, o.scale, o.counted_on,
       EXISTS (SELECT FROM course t WHERE t.colony_id = c.id AND t.is_open) AS in_course
FROM colony c
JOIN apiary a ON a.id = c.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN colony_forecast f ON f.colony_id = c.id
LEFT JOIN colony_status s ON s.colony_id = c.id AND s.since <= :today AND (s.until IS NULL OR s.until > :today)
LEFT JOIN outlook o ON o.colony_id = c.id
JOIN level l ON l.name = coalesce(s.level, 'unknown')
WHERE c.is_living
ORDER BY CASE WHEN :sort = 'level' THEN l.attention END,
         CASE WHEN :sort = 'level' THEN o.median END DESC NULLS LAST,
         CASE WHEN :sort = 'counted' THEN o.counted_on END NULLS FIRST,
         CASE WHEN :sort = 'name' THEN a.name END,
         CASE WHEN :sort = 'forecast' THEN f.date50 END NULLS LAST,
         CASE WHEN :sort = 'forecast' THEN f.danger_from END NULLS LAST,
         CASE WHEN :sort = 'forecast' THEN f.p_over_ahead END DESC NULLS LAST,
         CASE WHEN :sort = 'forecast' THEN f.median[1] END DESC NULLS LAST,
         a.name, length(c.label), c.label, c.id LIMIT :most OFFSET :skip;

-- name: forecast_tally
SELECT count(*) AS living, count(f.colony_id) AS colonies, count(*) FILTER (WHERE f.date50 <= f.for_day) AS over_now,
       count(*) FILTER (WHERE f.date50 > f.for_day AND f.date50 <= f.for_day + 21) AS within_three_weeks,
       count(*) FILTER (WHERE f.date50 > f.for_day + 21) AS later,
       count(f.colony_id) FILTER (WHERE f.date50 IS NULL) AS not_within
FROM colony c LEFT JOIN colony_forecast f ON f.colony_id = c.id WHERE c.is_living;

-- name: forecast_crossings
-- How many colonies are over by each day ahead, of those that are not over already.
SELECT f.date50 AS on_day, count(*) AS colonies
FROM colony_forecast f JOIN colony c ON c.id = f.colony_id AND c.is_living
WHERE f.date50 > f.for_day GROUP BY f.date50 ORDER BY f.date50;

-- name: forecasts_of_colonies
SELECT f.colony_id, f.for_day, o.counted_on > f.counted_on AS counted_since, f.act_per_100, f.median, f.low80, f.high80,
       f.date10, f.date50, f.date90, f.p_over_ahead, f.danger_from, f.disagree
FROM colony_forecast f LEFT JOIN outlook o ON o.colony_id = f.colony_id
WHERE f.colony_id = ANY(:colony_ids);

-- name: associations_at_night
SELECT association_id, timezone FROM associations_at_night();

-- name: defer_job
-- As the queue's own library defers it, in this transaction: a job is there just when what it is about is.
SELECT procrastinate_defer_jobs_v1(ARRAY[ROW('redframe', :task, 0, NULL, NULL, :args, NULL)::procrastinate_job_to_defer_v1]);
