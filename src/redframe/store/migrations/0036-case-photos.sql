-- Photos that a case shows for its record: what was found, what was destroyed. Only added to.
CREATE TABLE case_photo (
    id              uuid PRIMARY KEY,
    association_id  uuid NOT NULL,
    case_id         uuid NOT NULL,
    caption         text NOT NULL DEFAULT '' CHECK (length(caption) <= 400),
    width           integer NOT NULL CHECK (width BETWEEN 1 AND 4096),
    height          integer NOT NULL CHECK (height BETWEEN 1 AND 4096),
    picture         bytea NOT NULL CHECK (length(picture) <= 4000000),
    thumbnail       bytea NOT NULL CHECK (length(thumbnail) <= 200000),
    by_person       uuid REFERENCES person,
    created_at      timestamptz NOT NULL DEFAULT now(),
    FOREIGN KEY (association_id, case_id) REFERENCES disease_case (association_id, id)
);
ALTER TABLE case_photo ALTER COLUMN picture SET STORAGE EXTERNAL, ALTER COLUMN thumbnail SET STORAGE EXTERNAL;
CREATE INDEX case_photo_by_case ON case_photo (case_id, created_at);
ALTER TABLE case_photo ENABLE ROW LEVEL SECURITY;
GRANT SELECT, INSERT ON case_photo TO redframe_app;

DO $$
DECLARE
    event text;
    mine text := 'association_id = (SELECT my_association()) AND ((SELECT my_role()) <> ''keeper'''
        ' OR case_id IN (SELECT id FROM disease_case))';
BEGIN
    EXECUTE format('CREATE POLICY seen ON case_photo FOR SELECT USING (%s)', mine);
    EXECUTE format('CREATE POLICY created ON case_photo FOR INSERT WITH CHECK (%s AND (SELECT i_may_write())'
                   ' AND case_id IN (SELECT id FROM disease_case))', mine);
    FOREACH event IN ARRAY ARRAY['INSERT', 'UPDATE', 'DELETE'] LOOP
        EXECUTE format('CREATE TRIGGER change_%s AFTER %s ON case_photo REFERENCING %s TABLE AS touched '
            'FOR EACH STATEMENT EXECUTE FUNCTION count_touched(''shared'')', lower(event), event,
            CASE event WHEN 'DELETE' THEN 'OLD' ELSE 'NEW' END);
    END LOOP;
END $$;
