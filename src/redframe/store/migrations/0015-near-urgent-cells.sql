-- The cell of the coarse map in which a place lies (docs/methods/count-week.md, "The map").
CREATE FUNCTION coarse_cell(
    latitude double precision, longitude double precision, degrees double precision,
    OUT cell_row integer, OUT cell_column integer
) LANGUAGE sql IMMUTABLE AS $$
    SELECT r, floor(longitude / (degrees / cos(radians((r + 0.5) * degrees))))::integer
    FROM (SELECT floor(latitude / degrees)::integer AS r) AS _ $$;

-- Where the apiaries of a week stand, coarsely, and what was counted in each: what a keeper's own apiary is set against
-- to tell whether mites are likely to come in. No place, no name.
CREATE FUNCTION week_coarsely(week uuid) RETURNS TABLE (
    apiary_id uuid, keeper_id uuid, single_row integer, single_column integer, double_row integer, double_column integer,
    days date[], rates double precision[]
) LANGUAGE sql STABLE SECURITY DEFINER SET search_path = public AS $$
    WITH latest AS (
        SELECT DISTINCT ON (m.colony_id) c.apiary_id, m.taken_on, r.median
        FROM count_week w
        JOIN mite_count m ON m.association_id = w.association_id AND m.taken_on BETWEEN w.first_on AND w.last_on
        JOIN colony c ON c.id = m.colony_id
        JOIN count_reading r ON r.count_id = m.id AND r.scale = 'mites_per_100'
        WHERE w.id = week AND w.association_id = my_association() AND m.method IN ('wash', 'sugar', 'co2')
        ORDER BY m.colony_id, m.taken_on DESC, m.method = 'wash' DESC, m.taken_at DESC, m.made_at DESC, m.id
    )
    SELECT a.id, a.keeper_id, s.cell_row, s.cell_column, d.cell_row, d.cell_column,
           coalesce(array_agg(l.taken_on ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}'),
           coalesce(array_agg(l.median ORDER BY l.taken_on, l.median) FILTER (WHERE l.median IS NOT NULL), '{}')
    FROM count_week_keeper k JOIN apiary a ON a.keeper_id = k.keeper_id
    CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.1) s CROSS JOIN coarse_cell(a.latitude, a.longitude, 0.2) d
    LEFT JOIN latest l ON l.apiary_id = a.id
    WHERE k.week_id = week AND k.association_id = my_association()
    GROUP BY a.id, a.keeper_id, s.cell_row, s.cell_column, d.cell_row, d.cell_column $$;
REVOKE EXECUTE ON FUNCTION week_coarsely(uuid) FROM public;
GRANT EXECUTE ON FUNCTION week_coarsely(uuid) TO redframe_app;
