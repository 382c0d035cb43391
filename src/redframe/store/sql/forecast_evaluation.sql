-- name: counts_to_evaluate
-- Jars and clean boards since a day of some colonies counted more than once in it, drawn at random, oldest first.
SELECT m.colony_id, m.taken_on, m.taken_at, r.mites, r.bees_mean, r.bees_cv, r.recovery, m.placed_at, r.board_days, r.board_cv
FROM (SELECT colony_id FROM mite_count WHERE taken_on > :since GROUP BY colony_id HAVING count(*) > 1
      ORDER BY hashtextextended(colony_id::text, :seed) LIMIT :most) AS drawn
JOIN mite_count m USING (colony_id) JOIN count_reading r ON r.count_id = m.id
WHERE m.taken_on > :since AND (r.scale = 'mites_per_100' OR m.method = 'board' AND m.cleaned = 'yes')
ORDER BY m.colony_id, m.taken_at, m.created_at, m.id;

-- name: courses_to_evaluate
SELECT colony_id, option_id, state, start_on, placed_on, ended_on,
       CASE WHEN is_earlier THEN (SELECT e.outcome FROM earlier_treatment e WHERE e.id = course.id) END AS said_outcome
FROM course
WHERE colony_id = ANY(:colony_ids) AND placed_on IS NOT NULL;

-- name: replace_evaluation
INSERT INTO forecast_evaluation (association_id, between, looked_on, since, counts, days, held50, held80, held95, above,
                                happened, brier, brier_stays, brier_one_rate)
VALUES (my_association(), :between, :looked_on, :since, :counts, :days, :held50, :held80, :held95, :above, :happened,
        :brier, :brier_stays, :brier_one_rate)
ON CONFLICT (association_id, between) DO UPDATE SET looked_on = excluded.looked_on, since = excluded.since,
    counts = excluded.counts, days = excluded.days, held50 = excluded.held50, held80 = excluded.held80,
    held95 = excluded.held95, above = excluded.above, happened = excluded.happened, brier = excluded.brier,
    brier_stays = excluded.brier_stays, brier_one_rate = excluded.brier_one_rate;

-- name: lift_hindsight
DELETE FROM forecast_evaluation WHERE association_id = my_association() AND looked_on < :looked_on;

-- name: evaluation
SELECT between, looked_on, since, counts, days, held50, held80, held95, above, happened, brier, brier_stays, brier_one_rate
FROM forecast_evaluation WHERE association_id = my_association() ORDER BY between DESC;
