-- The label of the product in use, as the policy had it under which a course was planned.
CREATE OR REPLACE VIEW course_record WITH (security_invoker = true) AS
SELECT t.id, c.apiary_id, a.name AS apiary, t.colony_id, c.label, t.plan_id, t.option_id, t.policy_version, t.start_on,
       t.interval_override, t.state, t.dose_quantity, t.dose_unit, t.broodless, t.placed_on, t.ended_on, t.honey_clear_on,
       t.suitability->'reasons' AS reasons, t.overrides, t.verdict, t.abandoned_why,
       coalesce((SELECT name FROM member WHERE member.id = t.by_person), '') AS by_name, t.created_at, t.version,
       CASE WHEN t.is_earlier THEN (SELECT to_jsonb(e) - '{id,association_id,colony_id,by_person,created_at}'::text[]
                                    FROM earlier_treatment e WHERE e.id = t.id) END AS earlier,
       (SELECT one FROM policy p CROSS JOIN jsonb_array_elements(p.treatment_rules -> 'product_labels') AS one
        WHERE p.association_id = t.association_id AND p.version = t.policy_version AND one ->> 'option' = t.option_id
        LIMIT 1) AS product_label
FROM course t JOIN colony c ON c.id = t.colony_id JOIN apiary a ON a.id = c.apiary_id;
