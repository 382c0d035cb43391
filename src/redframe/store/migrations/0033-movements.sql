-- What came to a colony or went from it that no other act of the record says, as somebody saw it or was told: bought,
-- sold, lent, a swarm, bees shaken, gear, food. The other end is a colony, a place in words, or an unknown source.
CREATE TABLE movement (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    way             text NOT NULL CHECK (way IN ('came', 'went')),
    kind            text NOT NULL CHECK (kind ~ '^[a-z_]{1,40}$'),
    earliest        date NOT NULL,
    latest          date NOT NULL CONSTRAINT movement_days_check CHECK (latest >= earliest),
    other_colony_id uuid CONSTRAINT movement_other_check CHECK (other_colony_id <> colony_id),
    elsewhere       text NOT NULL DEFAULT '' CHECK (length(elsewhere) <= 120),
    node            text NOT NULL CHECK (length(node) BETWEEN 1 AND 400),
    is_seen         boolean NOT NULL,
    is_disinfected  boolean NOT NULL DEFAULT false,
    note            text NOT NULL DEFAULT '' CHECK (length(note) <= 2000),
    withdrawn_why   text NOT NULL DEFAULT '' CHECK (length(withdrawn_why) <= 400),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    version         integer NOT NULL DEFAULT 1,
    CONSTRAINT movement_one_end_check CHECK (other_colony_id IS NULL OR elsewhere = ''),
    CONSTRAINT movement_target_check CHECK (way = 'came' OR other_colony_id IS NOT NULL OR elsewhere <> ''),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id),
    FOREIGN KEY (association_id, other_colony_id) REFERENCES colony (association_id, id)
);
CREATE INDEX movement_by_colony ON movement (colony_id, latest);
CREATE INDEX movement_by_other ON movement (other_colony_id, latest) WHERE other_colony_id IS NOT NULL;
CREATE INDEX movement_by_association ON movement (association_id, latest);
CREATE TRIGGER history BEFORE INSERT OR UPDATE ON movement FOR EACH ROW EXECUTE FUNCTION keep_history('reason');
GRANT SELECT, INSERT, UPDATE ON movement TO redframe_app;

-- The traces of a case as they stood when it was confirmed and when tracing was opened: never changed.
CREATE TABLE trace_list (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    number          integer NOT NULL CHECK (number >= 1),
    made_on         date NOT NULL,
    content         jsonb NOT NULL CHECK (length(content::text) <= 30000000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    UNIQUE (case_id, number),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id)
);
GRANT SELECT, INSERT ON trace_list TO redframe_app;

-- Everything that went from one colony to another, to or from a comb in store or a place elsewhere (`node`).
CREATE VIEW contact_log WITH (security_invoker = true) AS
SELECT m.id::text AS id, m.association_id, m.from_colony, m.to_colony,
       CASE WHEN m.from_colony IS NULL OR m.to_colony IS NULL THEN 'frame ' || m.frame_id END AS node, '' AS elsewhere,
       CASE WHEN m.from_colony IS NULL THEN 'transfer' WHEN m.to_colony IS NULL THEN 'drawn_comb'
            WHEN b.purpose = 'super' THEN 'honey_frame' ELSE 'brood_frame' END AS kind,
       m.moved_on AS earliest, m.moved_on AS latest, 'seen' AS certainty, false AS is_disinfected, m.frame_id, m.note,
       m.created_at
FROM frame_move m LEFT JOIN hive_box b ON b.id = m.from_box
WHERE m.from_colony IS DISTINCT FROM m.to_colony
UNION ALL
SELECT e.id::text, e.association_id, e.other_colony_id, e.colony_id, NULL, '', 'split', e.happened_on, e.happened_on,
       'seen', false, NULL, e.note, e.created_at
FROM colony_event e WHERE e.kind = 'split_from' AND e.other_colony_id IS NOT NULL
UNION ALL
SELECT e.id::text, e.association_id, e.colony_id, e.other_colony_id, NULL, '', 'merge', e.happened_on, e.happened_on,
       'seen', false, NULL, e.note, e.created_at
FROM colony_event e WHERE e.kind = 'merged_into' AND e.other_colony_id IS NOT NULL
UNION ALL
SELECT m.id::text, m.association_id, m.other_colony_id, m.colony_id, CASE WHEN m.other_colony_id IS NULL THEN m.node END,
       m.elsewhere, m.kind, m.earliest, m.latest, CASE WHEN m.is_seen THEN 'seen' ELSE 'told' END, m.is_disinfected, NULL,
       m.note, m.created_at
FROM movement m WHERE m.way = 'came' AND m.withdrawn_why = ''
UNION ALL
SELECT m.id::text, m.association_id, m.colony_id, m.other_colony_id, CASE WHEN m.other_colony_id IS NULL THEN m.node END,
       m.elsewhere, m.kind, m.earliest, m.latest, CASE WHEN m.is_seen THEN 'seen' ELSE 'told' END, m.is_disinfected, NULL,
       m.note, m.created_at
FROM movement m WHERE m.way = 'went' AND m.withdrawn_why = '';
GRANT SELECT ON contact_log TO redframe_app;

CREATE INDEX visit_frame_by_frame ON visit_frame (frame_id) WHERE frame_id IS NOT NULL;

-- What a colony was called on a day.
CREATE FUNCTION label_on(of_colony uuid, on_day date) RETURNS text LANGUAGE sql STABLE AS $$
    SELECT coalesce((SELECT e.previous FROM colony_event e
                     WHERE e.colony_id = of_colony AND e.kind = 'renumbered' AND e.happened_on > on_day
                     ORDER BY e.happened_on, e.created_at LIMIT 1),
                    (SELECT label FROM colony WHERE id = of_colony)) $$;

-- The apiary at which a colony stood on a day.
CREATE FUNCTION apiary_on(of_colony uuid, on_day date) RETURNS uuid LANGUAGE sql STABLE AS $$
    SELECT coalesce((SELECT e.previous_apiary FROM colony_event e
                     WHERE e.colony_id = of_colony AND e.kind = 'moved' AND e.previous_apiary IS NOT NULL AND e.happened_on > on_day
                     ORDER BY e.happened_on, e.created_at LIMIT 1),
                    (SELECT apiary_id FROM colony WHERE id = of_colony)) $$;

DO $$
DECLARE
    event text;
    tab text;
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR colony_id = ANY ((SELECT my_colonies())::uuid[])%s)';
    whole text := 'association_id = (SELECT my_association()) AND (SELECT my_role()) IN (''inspector'', ''administrator'')';
BEGIN
    EXECUTE 'ALTER TABLE movement ENABLE ROW LEVEL SECURITY';
    EXECUTE format('CREATE POLICY seen ON movement FOR SELECT USING (%s)',
                   format(follows, ' OR other_colony_id = ANY ((SELECT my_colonies())::uuid[])'));
    EXECUTE format('CREATE POLICY created ON movement FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())'
                   ' AND (other_colony_id IS NULL OR other_colony_id IN (SELECT id FROM colony)))', format(follows, ''));
    EXECUTE format('CREATE POLICY amended ON movement FOR UPDATE USING (%s AND (SELECT i_may_write()))', format(follows, ''));
    EXECUTE 'ALTER TABLE trace_list ENABLE ROW LEVEL SECURITY';
    EXECUTE format('CREATE POLICY seen ON trace_list FOR SELECT USING (%s)', whole);
    EXECUTE format('CREATE POLICY created ON trace_list FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())'
                   ' AND case_id IN (SELECT id FROM disease_case))', whole);
    FOREACH tab IN ARRAY ARRAY['movement', 'trace_list'] LOOP
        FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
            EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON %I REFERENCING %s TABLE AS touched '
                'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(%L)', lower(event), event, tab,
                CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END, CASE tab WHEN 'movement' THEN 'colony' ELSE 'shared' END);
        END LOOP;
    END LOOP;
END $$;
REVOKE EXECUTE ON FUNCTION label_on(uuid, date), apiary_on(uuid, date) FROM PUBLIC;
GRANT EXECUTE ON FUNCTION label_on(uuid, date), apiary_on(uuid, date) TO redframe_app;
