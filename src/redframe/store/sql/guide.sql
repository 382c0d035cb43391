-- name: guide_facts
-- What a new association has done of its beginning. The season counts as its own once its dates differ from the first
-- ones, or somebody said that they fit.
WITH own AS (SELECT * FROM policy WHERE association_id = my_association()),
     said AS (SELECT step FROM guide_step WHERE association_id = my_association())
SELECT EXISTS (SELECT FROM said WHERE step = 'season')
           OR (SELECT count(DISTINCT calendar) > 1 FROM own) AS season,
       EXISTS (SELECT FROM said WHERE step = 'scoop')
           OR EXISTS (SELECT FROM own WHERE jsonb_array_length(scoops) > 0) AS scoop,
       EXISTS (SELECT FROM said WHERE step = 'people')
           OR anybody_with_me()
           OR EXISTS (SELECT FROM invitation WHERE association_id = my_association() AND withdrawn_at IS NULL) AS people,
       EXISTS (SELECT FROM apiary) AS apiary,
       EXISTS (SELECT FROM colony) AS colonies;

-- name: say_fits
INSERT INTO guide_step (association_id, step, by_person) VALUES (my_association(), :step, my_person())
ON CONFLICT DO NOTHING;
