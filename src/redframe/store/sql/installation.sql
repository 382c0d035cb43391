-- name: association_by_name
SELECT id FROM association WHERE name = :name;

-- name: insert_association
INSERT INTO association (id, name, timezone, created_at) VALUES (:id, :name, :timezone, coalesce(:created_at, now()));

-- name: insert_first_policy
INSERT INTO policy (association_id, version, scheme, scope, calendar, treatment_rules, disease_region)
VALUES (:association_id, 1, :scheme, :scope, :calendar, :treatment_rules, :disease_region);

-- name: insert_first_keeper
INSERT INTO keeper (id, association_id, name, registration) VALUES (:id, :association_id, :name, :registration);

-- name: insert_person
INSERT INTO person (id, email, name, password_hash) VALUES (:id, :email, :name, :password_hash);

-- name: insert_membership
INSERT INTO membership (id, person_id, association_id, role, keeper_id)
VALUES (:id, :person_id, :association_id, :role, :keeper_id);

-- name: replace_password
-- The password of somebody who has forgotten it; every device of that person is signed out.
WITH changed AS (UPDATE person SET password_hash = :password_hash WHERE email = :email RETURNING id),
ended AS (DELETE FROM session WHERE membership_id IN (SELECT m.id FROM membership m JOIN changed c ON c.id = m.person_id))
SELECT id FROM changed;

-- name: forget_second_factor
-- That of somebody who has lost the device and the recovery codes.
WITH gone AS (DELETE FROM second_factor f USING person p WHERE p.id = f.person_id AND p.email = :email RETURNING f.person_id),
codes AS (DELETE FROM recovery_code c USING person p WHERE p.id = c.person_id AND p.email = :email)
INSERT INTO security_event (person_id, kind) SELECT person_id, 'second_factor_off' FROM gone;

-- name: person_is_known
SELECT EXISTS (SELECT FROM person WHERE email = :email);

-- name: demo_is_loaded
SELECT to_regclass('demo_loaded') IS NOT NULL AS is_loaded;

-- name: foreign_association
SELECT id FROM association WHERE NOT id = ANY(:ids) LIMIT 1;

-- name: clear_demo
TRUNCATE association, person, audit CASCADE;

-- name: mark_demo_loaded
CREATE TABLE demo_loaded AS SELECT now() AS at;

-- name: analyse
ANALYZE;

-- name: vacuum
VACUUM ANALYZE;

-- name: own_tables
-- The tables of the application, whatever they hold.
SELECT c.relname FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace
WHERE c.relkind = 'r' AND n.nspname = 'public' ORDER BY c.relname;

-- name: mark_begun
INSERT INTO guide_step (association_id, step) SELECT :association_id, unnest(ARRAY['season', 'scoop', 'people']);
