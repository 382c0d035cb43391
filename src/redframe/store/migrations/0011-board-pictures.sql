-- A picture of a board, what was found on it by the program, and what a person made of that: accepted, struck, added.
CREATE TABLE board_picture (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    colony_id       uuid NOT NULL,
    width           integer NOT NULL CHECK (width > 0),
    height          integer NOT NULL CHECK (height > 0),
    width_mm        double precision NOT NULL CHECK (width_mm BETWEEN 20 AND 2000),
    grid_columns    integer NOT NULL CHECK (grid_columns BETWEEN 1 AND 20),
    grid_rows       integer NOT NULL CHECK (grid_rows BETWEEN 1 AND 20),
    picture         bytea NOT NULL,
    candidates      jsonb NOT NULL,                -- [{x, y, length_mm, score}]
    finder          integer NOT NULL,              -- version of the program that found them
    marks           jsonb,                         -- [{x, y, found, kept}], once counted
    counted         integer[],                     -- squares that were counted, row by row from 0
    count_id        uuid REFERENCES mite_count,
    by_person       uuid REFERENCES person,
    made_at         timestamptz NOT NULL DEFAULT now(),
    CHECK ((count_id IS NULL) = (marks IS NULL) AND (count_id IS NULL) = (counted IS NULL)),
    FOREIGN KEY (association_id, colony_id) REFERENCES colony (association_id, id)
);
ALTER TABLE board_picture ALTER COLUMN picture SET STORAGE EXTERNAL;
CREATE INDEX board_picture_by_count ON board_picture (count_id) WHERE count_id IS NOT NULL;
CREATE INDEX board_picture_by_colony ON board_picture (colony_id);

DO $$
DECLARE
    follows text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'' OR colony_id = ANY ((SELECT my_colonies())::uuid[]))';
BEGIN
    ALTER TABLE board_picture ENABLE ROW LEVEL SECURITY;
    EXECUTE format('CREATE POLICY seen ON board_picture FOR SELECT USING (%s)', follows);
    EXECUTE format('CREATE POLICY made ON board_picture FOR INSERT WITH CHECK (%s AND (SELECT i_may_write()))', follows);
    -- Marks are laid once, with their count; afterwards nothing of it changes.
    EXECUTE format('CREATE POLICY counted ON board_picture FOR UPDATE USING (%s AND (SELECT i_may_write()) AND count_id IS NULL) WITH CHECK (%s)', follows, follows);
    GRANT SELECT, INSERT ON board_picture TO redframe_app;
    GRANT UPDATE (marks, counted, count_id) ON board_picture TO redframe_app;
END $$;
