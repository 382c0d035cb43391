"""Many colonies with five seasons of data, made set-based in the database for measuring (not for showing)."""

from __future__ import annotations

import psycopg

from redframe.demo.scenario import made_id

SEED = """
INSERT INTO keeper (id, association_id, name)
SELECT gen_random_uuid(), %(association)s, 'Keeper ' || n FROM generate_series(1, greatest(1, %(colonies)s / 60)) n;

INSERT INTO apiary (id, association_id, keeper_id, name, latitude, longitude)
SELECT gen_random_uuid(), %(association)s, k.id, 'Apiary ' || k.name || ' ' || n, 44 + random() / 4, -31.5 + random() / 6
FROM (SELECT * FROM keeper WHERE association_id = %(association)s AND name LIKE 'Keeper %%') k, generate_series(1, 5) n;

INSERT INTO colony (id, association_id, apiary_id, label, state_since)
SELECT gen_random_uuid(), %(association)s, a.id, 'X' || n, '2026-04-01'
FROM (SELECT * FROM apiary WHERE association_id = %(association)s AND name LIKE 'Apiary %%') a, generate_series(1, 12) n;

INSERT INTO colony_event (id, association_id, colony_id, kind, happened_on, created_at)
SELECT gen_random_uuid(), association_id, id, 'started', state_since, state_since FROM colony
WHERE association_id = %(association)s AND label LIKE 'X%%';

INSERT INTO queen (id, association_id, colony_id, year, since)
SELECT gen_random_uuid(), association_id, id, 2029, '2029-06-01' FROM colony
WHERE association_id = %(association)s AND label LIKE 'X%%';

INSERT INTO mite_count (id, association_id, colony_id, method, taken_at, taken_on, shakes, bees_known_by, bees, place_of_bees,
                        brood_state, queen_safe)
SELECT gen_random_uuid(), c.association_id, c.id, 'wash', d.day + interval '12 hours', d.day,
       ARRAY[(4 * random())::int, (2 * random())::int], 'counted', 300, 'brood_frame', 'open_and_capped', 'yes'
FROM colony c, LATERAL (SELECT (make_date(2026 + y, 4, 1) + 21 * n + (7 * random())::int)::date AS day
                        FROM generate_series(0, 5) y, generate_series(0, 7) n) d
WHERE c.association_id = %(association)s AND c.label LIKE 'X%%' AND d.day <= '2031-08-02';

INSERT INTO count_reading (count_id, association_id, colony_id, model, scale, mites, bees_mean, bees_cv, recovery, as_counted,
                           median, low, high, upper80)
SELECT m.id, m.association_id, m.colony_id, 1, 'mites_per_100', s.mites, 300, 0, 'wash_shakes', s.mites / 3.0, (s.mites + 0.17) / 2.85,
       s.mites / 6.0, (s.mites + 3) / 1.8, (s.mites + 1) / 2.4
FROM mite_count m, LATERAL (SELECT sum(x) AS mites FROM unnest(m.shakes) x) s
WHERE m.association_id = %(association)s AND m.bees_known_by = 'counted'
AND NOT EXISTS (SELECT FROM count_reading r WHERE r.count_id = m.id);

INSERT INTO visit (id, association_id, colony_id, visited_on, state, strength, strength_unit, capped_brood, place)
SELECT gen_random_uuid(), association_id, colony_id, taken_on, 'closed', 6 + (8 * random())::int, 'frames', 'yes', '{}' FROM mite_count
WHERE association_id = %(association)s AND bees_known_by = 'counted';

INSERT INTO outlook (colony_id, association_id, count_id, counted_on, scale, recovery, mites, bees_mean, median, low, high,
                     recount_on, policy_version)
SELECT DISTINCT ON (m.colony_id) m.colony_id, m.association_id, m.id, m.taken_on, r.scale, r.recovery, r.mites, 300, r.median,
       r.low, r.high, m.taken_on + 14, 1
FROM mite_count m JOIN count_reading r ON r.count_id = m.id AND r.scale = 'mites_per_100'
WHERE m.association_id = %(association)s AND NOT EXISTS (SELECT FROM outlook o WHERE o.colony_id = m.colony_id)
ORDER BY m.colony_id, m.taken_on DESC;

INSERT INTO colony_status (colony_id, association_id, since, level, reason, phase, act_at, scheme)
SELECT o.colony_id, o.association_id, o.counted_on,
       CASE WHEN o.median >= 4 THEN 'urgent' WHEN o.median >= 2 THEN 'act' WHEN o.median >= 1 THEN 'watch' ELSE 'clear' END,
       'count', 'pre_winter', 2, 'season_phase'
FROM outlook o WHERE o.association_id = %(association)s AND NOT EXISTS (SELECT FROM colony_status s WHERE s.colony_id = o.colony_id);
"""


def seed(owner_url: str, colonies: int) -> int:
    """Add about so many colonies to the demo's association; return how many colonies there are then."""
    with psycopg.connect(owner_url, autocommit=True) as connection:
        connection.execute("SET session_replication_role = replica")  # the trail of made-up data is not wanted
        for statement in SEED.split(";\n"):
            if statement.strip():
                connection.execute(statement.encode(), {"association": made_id("corrane"), "colonies": colonies})
                # Each statement reads what the ones before it laid: planned as if that were still the demo's few rows,
                # it would take hours.
                connection.execute("ANALYZE")
        connection.execute("SELECT renew_apiaries_now(ARRAY(SELECT id FROM apiary))")
        connection.execute("SELECT renew_colonies_now(ARRAY(SELECT id FROM colony WHERE is_living))")
        connection.execute("INSERT INTO work_turned (association_id, apiary_id) SELECT association_id, id FROM apiary")
        connection.execute("VACUUM ANALYZE")
        row = connection.execute("SELECT count(*) FROM colony").fetchone()
    return int(row[0]) if row else 0
