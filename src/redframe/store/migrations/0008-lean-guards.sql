-- The same guards, cheaper to plan: what a keeper reaches is gathered once a statement by one function, instead of a
-- subquery of colonies with a subquery of apiaries inside for every table of a query. For everybody else it is never run.
CREATE FUNCTION my_apiaries() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM apiary WHERE association_id = my_association() AND keeper_id = my_keeper() $$;
CREATE FUNCTION my_colonies() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM colony WHERE apiary_id = ANY(my_apiaries()) $$;
CREATE FUNCTION my_hives() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM hive WHERE apiary_id = ANY(my_apiaries()) $$;
CREATE FUNCTION my_courses() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    SELECT coalesce(array_agg(id), '{}') FROM course WHERE colony_id = ANY(my_colonies()) $$;
REVOKE EXECUTE ON FUNCTION my_apiaries(), my_colonies(), my_hives(), my_courses() FROM public;
GRANT EXECUTE ON FUNCTION my_apiaries(), my_colonies(), my_hives(), my_courses() TO redframe_app;

DO $$
DECLARE
    follows text;
    entry record;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('hive', 'apiary_id', 'my_apiaries'), ('colony', 'apiary_id', 'my_apiaries'), ('hive_box', 'hive_id', 'my_hives'),
        ('queen', 'colony_id', 'my_colonies'), ('colony_event', 'colony_id', 'my_colonies'), ('visit', 'colony_id', 'my_colonies'),
        ('mite_count', 'colony_id', 'my_colonies'), ('count_reading', 'colony_id', 'my_colonies'),
        ('outlook', 'colony_id', 'my_colonies'), ('standing', 'colony_id', 'my_colonies'), ('course', 'colony_id', 'my_colonies'),
        ('course_step', 'course_id', 'my_courses'), ('course_act', 'course_id', 'my_courses')) AS t (tab, own, mine)
    LOOP
        follows := format('association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR %I = ANY ((SELECT %I())::uuid[]))',
                          entry.own, entry.mine);
        EXECUTE format('ALTER POLICY seen ON %I USING (%s)', entry.tab, follows);
        EXECUTE format('ALTER POLICY made ON %I WITH CHECK (%s AND (SELECT i_may_write()))', entry.tab, follows);
        EXECUTE format('ALTER POLICY amended ON %I USING (%s AND (SELECT i_may_write()))', entry.tab, follows);
    END LOOP;
END $$;
