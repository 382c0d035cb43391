-- name: at_work
-- Tells row-level security who is at work, for this transaction only; then, where a day has turned since anybody of the
-- association was, renews what is so today.
WITH who AS MATERIALIZED (SELECT set_config('redframe.association', :association, true), set_config('redframe.role', :role, true),
       set_config('redframe.keeper', :keeper, true), set_config('redframe.person', :person, true),
       set_config('redframe.reason', :reason, true), set_config('plan_cache_mode', :plans, true))
SELECT roll_over(:today) FROM who;
