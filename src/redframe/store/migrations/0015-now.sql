-- What is so now of every living colony and of every apiary, one narrow row each, so that a page of many costs what it
-- shows. Derived: renewed by the triggers below whenever anything changes that it says, and when a day has turned.

-- The day for which the rows of an association hold: its own today, as whoever reads them first on that day says it.
CREATE TABLE association_day (
    association_id  uuid PRIMARY KEY REFERENCES association,
    day             date NOT NULL
);

CREATE TABLE colony_now (
    colony_id       uuid PRIMARY KEY REFERENCES colony ON DELETE CASCADE,
    association_id  uuid NOT NULL,
    apiary_id       uuid NOT NULL,
    label           text NOT NULL,
    level           text NOT NULL REFERENCES level,
    is_over         boolean NOT NULL,
    act_at          double precision,
    scheme          text,
    overdue_from    date,
    holds_from      date,                      -- the row tells the level from this day on
    holds_until     date,                      -- and no longer on this one
    counted_on      date,
    median          double precision,
    scale           text,
    recount_on      date,
    in_course       boolean NOT NULL,
    in_hive         boolean NOT NULL,          -- a course that has been placed: it will be verified anyway
    next_visit      date,                      -- set by the last closed visit
    next_why        text,
    visit_open      boolean NOT NULL
);
CREATE INDEX colony_now_by_apiary ON colony_now (apiary_id);
CREATE INDEX colony_now_turns ON colony_now (association_id, holds_until);

CREATE TABLE apiary_now (
    apiary_id        uuid PRIMARY KEY REFERENCES apiary,
    association_id   uuid NOT NULL,
    colonies         integer NOT NULL DEFAULT 0,
    urgent           integer NOT NULL DEFAULT 0,
    act              integer NOT NULL DEFAULT 0,
    watch            integer NOT NULL DEFAULT 0,
    clear            integer NOT NULL DEFAULT 0,
    unknown          integer NOT NULL DEFAULT 0,
    oldest_count_on  date,
    newest_count_on  date,
    in_course        integer NOT NULL DEFAULT 0,
    highest          double precision,
    over_alone       integer NOT NULL DEFAULT 0,     -- at act or urgent, and no open course answers it
    over_urgent      integer NOT NULL DEFAULT 0,
    over_highest     double precision,
    lost             integer NOT NULL DEFAULT 0,     -- never counted, or not known any more
    lost_from        date,                           -- the first day on which one of them was to be counted again
    recount_from     date,                           -- the same of those at clear and watch
    visit_from       date
);
CREATE INDEX apiary_now_over ON apiary_now (association_id) WHERE over_alone > 0;
CREATE INDEX apiary_now_counts ON apiary_now (association_id, recount_from);
CREATE INDEX apiary_now_visits ON apiary_now (association_id, visit_from) WHERE visit_from IS NOT NULL;

CREATE FUNCTION renew_apiaries_now(ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    -- Held in order, and looked at by a statement of its own: it sees what another transaction has committed meanwhile.
    PERFORM FROM apiary WHERE id = ANY (ids) ORDER BY id FOR NO KEY UPDATE;
    INSERT INTO apiary_now AS n
    SELECT a.id, a.association_id, count(c.colony_id), count(*) FILTER (WHERE c.level = 'urgent'),
           count(*) FILTER (WHERE c.level = 'act'), count(*) FILTER (WHERE c.level = 'watch'),
           count(*) FILTER (WHERE c.level = 'clear'), count(*) FILTER (WHERE c.level = 'unknown'),
           min(c.counted_on), max(c.counted_on), count(*) FILTER (WHERE c.in_course), max(c.median),
           count(*) FILTER (WHERE c.is_over AND NOT c.in_course),
           count(*) FILTER (WHERE c.level = 'urgent' AND NOT c.in_course),
           -- Rates and daily falls are never compared: the highest is that of the rates where there are any.
           coalesce(max(c.median) FILTER (WHERE c.is_over AND NOT c.in_course AND c.scale = 'mites_per_100'),
                    max(c.median) FILTER (WHERE c.is_over AND NOT c.in_course)),
           count(*) FILTER (WHERE (c.counted_on IS NULL OR c.level = 'unknown') AND NOT c.in_hive),
           min(c.recount_on) FILTER (WHERE c.level = 'unknown' AND NOT c.in_hive),
           min(c.recount_on) FILTER (WHERE c.level IN ('clear', 'watch') AND NOT c.in_hive),
           min(c.next_visit) FILTER (WHERE NOT c.visit_open)
    FROM apiary a LEFT JOIN colony_now c ON c.apiary_id = a.id WHERE a.id = ANY (ids) GROUP BY a.id
    ON CONFLICT (apiary_id) DO UPDATE SET
        colonies = excluded.colonies, urgent = excluded.urgent, act = excluded.act, watch = excluded.watch,
        clear = excluded.clear, unknown = excluded.unknown, oldest_count_on = excluded.oldest_count_on,
        newest_count_on = excluded.newest_count_on, in_course = excluded.in_course, highest = excluded.highest,
        over_alone = excluded.over_alone, over_urgent = excluded.over_urgent, over_highest = excluded.over_highest,
        lost = excluded.lost, lost_from = excluded.lost_from, recount_from = excluded.recount_from,
        visit_from = excluded.visit_from
    WHERE n IS DISTINCT FROM excluded;
END $$;

CREATE FUNCTION renew_colonies_now(ids uuid[]) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    apiaries uuid[];
BEGIN
    IF ids IS NULL OR cardinality(ids) = 0 THEN
        RETURN;
    END IF;
    -- The day stays what it is until this is committed; the colonies are held in order.
    PERFORM FROM association_day d WHERE EXISTS (SELECT FROM colony c WHERE c.id = ANY (ids)
                                                 AND c.association_id = d.association_id) FOR SHARE;
    PERFORM FROM colony WHERE id = ANY (ids) ORDER BY id FOR NO KEY UPDATE;
    SELECT array_agg(DISTINCT apiary_id) INTO apiaries FROM (
        SELECT apiary_id FROM colony_now WHERE colony_id = ANY (ids)
        UNION ALL SELECT apiary_id FROM colony WHERE id = ANY (ids)) AS t;
    DELETE FROM colony_now n
    WHERE n.colony_id = ANY (ids) AND NOT EXISTS (SELECT FROM colony c WHERE c.id = n.colony_id AND c.is_living);
    INSERT INTO colony_now AS n
    SELECT c.id, c.association_id, c.apiary_id, c.label, l.name, l.is_over, s.act_at, s.scheme, s.overdue_from,
           t.holds_from, t.holds_until, o.counted_on, o.median, o.scale, o.recount_on,
           EXISTS (SELECT FROM course p WHERE p.colony_id = c.id AND p.is_open),
           EXISTS (SELECT FROM course p WHERE p.colony_id = c.id AND p.is_open AND p.placed_on IS NOT NULL),
           v.next_visit, v.why, EXISTS (SELECT FROM visit d WHERE d.colony_id = c.id AND d.state = 'draft')
    FROM colony c
    LEFT JOIN association_day d ON d.association_id = c.association_id
    CROSS JOIN LATERAL (SELECT coalesce(d.day, current_date) AS today) AS u
    LEFT JOIN LATERAL (SELECT * FROM colony_status s WHERE s.colony_id = c.id AND s.since <= u.today
                       AND (s.until IS NULL OR s.until > u.today) LIMIT 1) s ON true
    LEFT JOIN LATERAL (SELECT max(b.day) FILTER (WHERE b.day <= u.today) AS holds_from,
                              min(b.day) FILTER (WHERE b.day > u.today) AS holds_until
                       FROM colony_status x CROSS JOIN LATERAL (VALUES (x.since), (x.until)) AS b (day)
                       WHERE x.colony_id = c.id) t ON true
    JOIN level l ON l.name = coalesce(s.level, 'unknown')
    LEFT JOIN outlook o ON o.colony_id = c.id
    LEFT JOIN LATERAL (SELECT v.next_visit, v.after ->> 'next_why' AS why FROM visit v
                       WHERE v.colony_id = c.id AND v.state = 'closed'
                       ORDER BY v.visited_on DESC, v.created_at DESC LIMIT 1) v ON true
    WHERE c.id = ANY (ids) AND c.is_living
    ON CONFLICT (colony_id) DO UPDATE SET
        apiary_id = excluded.apiary_id, label = excluded.label, level = excluded.level, is_over = excluded.is_over,
        act_at = excluded.act_at, scheme = excluded.scheme, overdue_from = excluded.overdue_from,
        holds_from = excluded.holds_from, holds_until = excluded.holds_until, counted_on = excluded.counted_on,
        median = excluded.median, scale = excluded.scale, recount_on = excluded.recount_on,
        in_course = excluded.in_course, in_hive = excluded.in_hive, next_visit = excluded.next_visit,
        next_why = excluded.next_why, visit_open = excluded.visit_open
    WHERE n IS DISTINCT FROM excluded;
    PERFORM renew_apiaries_now(apiaries);
END $$;

-- Called before the rows are read: where a day has turned since, those whose level has changed with it are renewed.
CREATE FUNCTION roll_over(today date) RETURNS void LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
DECLARE
    mine uuid := my_association();
BEGIN
    IF mine IS NULL OR EXISTS (SELECT FROM association_day WHERE association_id = mine AND day = today) THEN
        RETURN;
    END IF;
    INSERT INTO association_day (association_id, day) VALUES (mine, today)
        ON CONFLICT (association_id) DO UPDATE SET day = excluded.day;
    PERFORM renew_colonies_now(ARRAY(SELECT colony_id FROM colony_now WHERE association_id = mine
                                   AND (holds_until <= today OR holds_from > today)));
END $$;

-- Rows of colonies themselves, and rows about colonies. Each kind of change has its trigger: what it came from and what it
-- became are tables of that change alone.
CREATE FUNCTION follow_colonies() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        PERFORM renew_apiaries_now(ARRAY(SELECT DISTINCT apiary_id FROM gone));
    ELSE
        PERFORM renew_colonies_now(ARRAY(SELECT id FROM fresh));
    END IF;
    RETURN NULL;
END $$;
CREATE FUNCTION follow_rows_of_colonies() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        PERFORM renew_colonies_now(ARRAY(SELECT DISTINCT colony_id FROM gone));
    ELSE
        PERFORM renew_colonies_now(ARRAY(SELECT DISTINCT colony_id FROM fresh));
    END IF;
    RETURN NULL;
END $$;
-- A draft that grows changes nothing here.
CREATE FUNCTION follow_visits() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    PERFORM renew_colonies_now(ARRAY(SELECT DISTINCT f.colony_id FROM fresh f JOIN gone g USING (id)
                                   WHERE f.state <> 'draft' OR g.state <> 'draft'));
    RETURN NULL;
END $$;
CREATE FUNCTION follow_apiaries() RETURNS trigger LANGUAGE plpgsql SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
BEGIN
    PERFORM renew_apiaries_now(ARRAY(SELECT id FROM fresh));
    RETURN NULL;
END $$;

DO $$
DECLARE
    entry record;
    event text;
BEGIN
    FOR entry IN SELECT * FROM (VALUES ('colony', 'follow_colonies'), ('colony_status', 'follow_rows_of_colonies'),
        ('outlook', 'follow_rows_of_colonies'), ('course', 'follow_rows_of_colonies'),
        ('visit', 'follow_rows_of_colonies')) AS t (tab, calls)
    LOOP
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER now_%s AFTER %s ON %I REFERENCING %s FOR EACH STATEMENT EXECUTE FUNCTION %I()',
                lower(event), event, entry.tab,
                CASE event WHEN 'INSERT' THEN 'NEW TABLE AS fresh' WHEN 'DELETE' THEN 'OLD TABLE AS gone'
                    ELSE 'NEW TABLE AS fresh OLD TABLE AS gone' END,
                CASE WHEN entry.tab = 'visit' AND event = 'UPDATE' THEN 'follow_visits' ELSE entry.calls END);
        END LOOP;
    END LOOP;
END $$;
CREATE TRIGGER now_insert AFTER INSERT ON apiary REFERENCING NEW TABLE AS fresh FOR EACH STATEMENT
    EXECUTE FUNCTION follow_apiaries();

DO $$ BEGIN
    PERFORM renew_apiaries_now(ARRAY(SELECT id FROM apiary));
    PERFORM renew_colonies_now(ARRAY(SELECT id FROM colony WHERE is_living));
END $$;

-- Seen like what they are of; written by the triggers alone.
ALTER TABLE association_day ENABLE ROW LEVEL SECURITY;
ALTER TABLE colony_now ENABLE ROW LEVEL SECURITY;
ALTER TABLE apiary_now ENABLE ROW LEVEL SECURITY;
CREATE POLICY seen ON association_day FOR SELECT USING (association_id = (SELECT my_association()));
CREATE POLICY seen ON colony_now FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR apiary_id = ANY ((SELECT my_apiaries())::uuid[])));
CREATE POLICY seen ON apiary_now FOR SELECT USING (association_id = (SELECT my_association())
    AND ((SELECT my_role()) <> 'keeper' OR apiary_id = ANY ((SELECT my_apiaries())::uuid[])));
GRANT SELECT ON association_day, colony_now, apiary_now TO redframe_app;

REVOKE EXECUTE ON FUNCTION renew_apiaries_now(uuid[]), renew_colonies_now(uuid[]), roll_over(date), follow_colonies(),
    follow_rows_of_colonies(), follow_visits(), follow_apiaries() FROM public;
GRANT EXECUTE ON FUNCTION roll_over(date) TO redframe_app;
