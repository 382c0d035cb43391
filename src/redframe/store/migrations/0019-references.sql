-- What a row may refer to, and who sees whom.

-- A row refers only to what its writer can see: a frame to a box of the own hives, a move to an own visit, a board to a
-- count of the own association. The reference is looked up under the same row-level security. The columns that say to
-- whom a row belongs are held already (0011); `moves`: the reference can be changed later.
DO $$
DECLARE
    entry record;
    said text;
BEGIN
    FOR entry IN SELECT * FROM (VALUES
        ('apiary', 'keeper_id', 'keeper', true), ('colony', 'apiary_id', 'apiary', true), ('colony', 'hive_id', 'hive', true),
        ('hive', 'apiary_id', 'apiary', true), ('hive_box', 'hive_id', 'hive', true),
        ('colony_event', 'other_colony_id', 'colony', false), ('colony_event', 'previous_apiary', 'apiary', false),
        ('frame', 'apiary_id', 'apiary', true), ('frame', 'box_id', 'hive_box', true),
        ('frame_move', 'frame_id', 'frame', false), ('frame_move', 'visit_id', 'visit', false),
        ('frame_move', 'from_apiary', 'apiary', false), ('frame_move', 'to_apiary', 'apiary', false),
        ('visit_frame', 'visit_id', 'visit', false), ('visit_frame', 'box_id', 'hive_box', false),
        ('visit_frame', 'frame_id', 'frame', false), ('photo', 'visit_id', 'visit', false),
        ('board_picture', 'count_id', 'mite_count', true), ('insert_board', 'count_id', 'mite_count', true),
        ('count_reading', 'count_id', 'mite_count', true), ('outlook', 'count_id', 'mite_count', true),
        ('course', 'apiary_id', 'apiary', false), ('count_week_keeper', 'keeper_id', 'keeper', false),
        ('course_act', 'count_id', 'mite_count', true)) AS t (tab, refers, seen, moves)
    LOOP
        said := format('%I.%I IS NULL OR EXISTS (SELECT FROM %I seen WHERE seen.id = %I.%I)',
                       entry.tab, entry.refers, entry.seen, entry.tab, entry.refers);
        EXECUTE format('CREATE POLICY %I ON %I AS RESTRICTIVE FOR INSERT WITH CHECK (%s)', entry.refers || '_seen', entry.tab, said);
        IF entry.moves THEN
            EXECUTE format('CREATE POLICY %I ON %I AS RESTRICTIVE FOR UPDATE USING (true) WITH CHECK (%s)',
                           entry.refers || '_seen_still', entry.tab, said);
        END IF;
    END LOOP;
END $$;

-- Who may do what in an association is its administrators' to see; everybody sees the own part. Who the colleagues are,
-- and whether anybody reads a keeper's mail, is answered without it.
CREATE FUNCTION my_colleagues() RETURNS uuid[] LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT coalesce(array_agg(person_id), '{}') FROM membership
    WHERE association_id = my_association() AND my_role() NOT IN ('keeper', '') $$;
CREATE FUNCTION email_of_keeper(keeper uuid) RETURNS text LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT min(p.email) FROM membership m JOIN person p ON p.id = m.person_id
    WHERE m.keeper_id = keeper AND m.association_id = my_association() AND m.ended_at IS NULL AND i_am_staff() $$;
CREATE FUNCTION anybody_with_me() RETURNS boolean LANGUAGE sql STABLE SECURITY DEFINER
    SET search_path = pg_catalog, public, pg_temp AS $$
    SELECT count(*) > 1 FROM membership WHERE association_id = my_association() AND ended_at IS NULL $$;
DROP POLICY colleagues ON person;
CREATE POLICY colleagues ON person FOR SELECT
    USING (id = (SELECT my_person()) OR id = ANY ((SELECT my_colleagues())::uuid[]));
DROP POLICY mine ON membership;
CREATE POLICY mine ON membership FOR SELECT USING (person_id = (SELECT my_person())
    OR (association_id = (SELECT my_association()) AND (SELECT my_role()) = 'administrator'));

-- To a keeper who counts in the week the others are figures without a name: apiaries and keepers can be kept apart, not
-- recognised. To one who does not, it says nothing.
CREATE OR REPLACE FUNCTION week_coarsely(week uuid) RETURNS TABLE (
    apiary_id uuid, keeper_id uuid, single_row integer, single_column integer, double_row integer, double_column integer,
    days date[], rates double precision[]
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = pg_catalog, public, pg_temp AS $$
    WITH latest AS (
        SELECT DISTINCT ON (m.colony_id) c.apiary_id, m.taken_on, r.median
        FROM count_week w
        JOIN mite_count m ON m.association_id = w.association_id AND m.taken_on BETWEEN w.first_on AND w.last_on
        JOIN colony c ON c.id = m.colony_id
        JOIN count_reading r ON r.count_id = m.id AND r.scale = 'mites_per_100'
        WHERE w.id = week AND w.association_id = my_association() AND m.method IN ('wash', 'sugar', 'co2')
        ORDER BY m.colony_id, m.taken_on DESC, m.method = 'wash' DESC, m.taken_at DESC, m.created_at DESC, m.id
    ), named AS (
        SELECT a.*, my_role() <> 'keeper' OR a.keeper_id = my_keeper() AS is_named, md5(my_person()::text || week) AS salt
        FROM apiary a
    )
    SELECT CASE WHEN a.is_named THEN a.id ELSE md5(a.id || a.salt)::uuid END,
           CASE WHEN a.is_named THEN a.keeper_id ELSE md5(a.keeper_id || a.salt)::uuid END,
           s.cell_row, s.cell_column, d.cell_row, d.cell_column,
           coalesce(array_agg(l.taken_on ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}'),
           coalesce(array_agg(l.median ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}')
    FROM count_week_keeper k JOIN named a ON a.keeper_id = k.keeper_id
    CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.1) s CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.2) d
    LEFT JOIN latest l ON l.apiary_id = a.id
    WHERE k.week_id = week AND k.association_id = my_association()
    AND (my_role() <> 'keeper' OR EXISTS (SELECT FROM count_week_keeper mine
                                          WHERE mine.week_id = week AND mine.keeper_id = my_keeper()))
    GROUP BY a.id, a.keeper_id, a.is_named, a.salt, s.cell_row, s.cell_column, d.cell_row, d.cell_column $$;

REVOKE EXECUTE ON FUNCTION my_colleagues(), email_of_keeper(uuid), anybody_with_me() FROM public;
GRANT EXECUTE ON FUNCTION my_colleagues(), email_of_keeper(uuid), anybody_with_me() TO redframe_app;
