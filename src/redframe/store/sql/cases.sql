-- name: cases
-- Suspect cases, the open ones first and of these the newest, with where they stand.
SELECT d.id, d.number, d.disease, d.colony_id, c.label, d.apiary_id, a.name AS apiary, k.name AS keeper, d.rules, d.visit_id, d.deadout_id,
       d.found_on, d.law, d.state, d.hold, d.tracing, d.radius, d.version, d.created_at, coalesce((SELECT name FROM member WHERE member.id = d.by_person), '') AS by_name,
       s.covers AS hold_covers, s.reference AS hold_reference, s.since AS hold_since
FROM disease_case d
JOIN colony c ON c.id = d.colony_id
JOIN apiary a ON a.id = d.apiary_id
JOIN keeper k ON k.id = a.keeper_id
LEFT JOIN standstill s ON s.case_id = d.id AND s.until IS NULL
WHERE (:case_id::uuid IS NULL OR d.id = :case_id) AND (:apiary_id::uuid IS NULL OR d.apiary_id = :apiary_id)
AND (:wanted_open OR :case_id::uuid IS NOT NULL OR d.state = 'closed')
AND (NOT :wanted_open OR d.state <> 'closed')
ORDER BY d.state = 'closed', d.created_at DESC, d.number DESC LIMIT :most;

-- name: open_case_of
-- The open case of a colony and disease.
SELECT id FROM disease_case WHERE colony_id = :colony_id AND disease = :disease AND state <> 'closed';

-- name: next_case_number
SELECT next_case_number(:year) AS number;

-- name: add_case
INSERT INTO disease_case (id, association_id, number, disease, colony_id, apiary_id, visit_id, deadout_id, rules, found_on, law, by_person)
VALUES (:id, my_association(), :number, :disease, :colony_id, :apiary_id, :visit_id, :deadout_id, :rules, :found_on, :law, my_person());

-- name: add_case_step
INSERT INTO case_step (id, association_id, case_id, seq, act, track, source, target, actor, at, happened_on, evidence, corrects, by_person)
VALUES (:id, my_association(), :case_id, 0, :act, :track, :source, :target, :actor, :at, :happened_on, :evidence, :corrects, my_person());

-- name: add_anyway
INSERT INTO case_step (id, association_id, case_id, seq, act, actor, at, happened_on, evidence, by_person)
SELECT gen_random_uuid(), my_association(), d.id, 0, 'anyway', my_role(), :at, :on, :evidence, my_person()
FROM disease_case d WHERE d.number = :number AND d.association_id = my_association();

-- name: case_steps
SELECT s.id, s.case_id, s.seq, s.act, s.source, s.target, s.actor, s.at, s.happened_on, s.evidence, s.corrects, s.created_at,
       coalesce((SELECT name FROM member WHERE member.id = s.by_person), '') AS by_name
FROM case_step s WHERE s.case_id = ANY(:case_ids) ORDER BY s.case_id, s.seq;

-- name: case_samples
SELECT s.id, s.case_id, s.code, s.kind, s.taken_from, s.colony_id, c.label, s.created_at
FROM case_sample s JOIN colony c ON c.id = s.colony_id WHERE s.case_id = ANY(:case_ids) ORDER BY s.created_at, s.code;

-- name: case_sample
SELECT s.id, s.case_id, s.code, s.kind, s.taken_from, s.colony_id, c.label, s.created_at
FROM case_sample s JOIN colony c ON c.id = s.colony_id WHERE s.id = :sample_id;

-- name: add_case_sample
INSERT INTO case_sample (id, association_id, case_id, colony_id, code, kind, taken_from, by_person)
VALUES (:id, my_association(), :case_id, :colony_id, :code, :kind, :taken_from, my_person());

-- name: custody_lines
SELECT id, sample_id, kind, at, by_name, to_name, seal, temperature_c, seal_whole, created_at AS recorded_at
FROM custody_line
WHERE sample_id = ANY(:sample_ids) ORDER BY sample_id, at, created_at;

-- name: add_custody_line
INSERT INTO custody_line (id, association_id, sample_id, kind, at, by_name, to_name, seal, temperature_c, seal_whole, by_person)
VALUES (:id, my_association(), :sample_id, :kind, :at, :by_name, :to_name, :seal, :temperature_c, :seal_whole, my_person());

-- name: laboratory_documents
SELECT id, sample_id, kind, at, content, signature FROM laboratory_document WHERE sample_id = ANY(:sample_ids)
ORDER BY sample_id, at;

-- name: add_laboratory_document
INSERT INTO laboratory_document (id, association_id, sample_id, kind, at, content, signature)
VALUES (:id, my_association(), :sample_id, :kind, :at, :content, :signature) ON CONFLICT (sample_id, kind) DO NOTHING;

-- name: apiaries_around
-- Apiaries with living colonies within a distance of an apiary, in metres on the sphere, the nearest first.
SELECT a.id, a.name, k.name AS keeper, a.latitude, a.longitude,
       2 * 6371008.8 * asin(least(1, sqrt(sin(radians(a.latitude - o.latitude) / 2) ^ 2 + cos(radians(a.latitude))
           * cos(radians(o.latitude)) * sin(radians(a.longitude - o.longitude) / 2) ^ 2))) AS distance_m,
       (SELECT count(*) FROM colony c WHERE c.apiary_id = a.id AND c.is_living) AS colonies,
       (SELECT max(v.visited_on) FROM visit v JOIN colony c ON c.id = v.colony_id
        WHERE c.apiary_id = a.id AND v.state = 'closed' AND v.after ? 'examination') AS last_examined
FROM apiary o JOIN apiary a ON a.id <> o.id AND a.association_id = o.association_id
JOIN keeper k ON k.id = a.keeper_id
WHERE o.id = :apiary_id AND a.latitude BETWEEN o.latitude - :degrees AND o.latitude + :degrees
ORDER BY distance_m, a.name;

-- name: around_visits
SELECT id, apiary_id, place, visited_on, outcome, letter_sent, note,
       coalesce((SELECT name FROM member WHERE member.id = by_person), '') AS by_name
FROM around_visit WHERE case_id = :case_id ORDER BY visited_on, created_at, id;

-- name: add_around_visit
INSERT INTO around_visit (id, association_id, case_id, apiary_id, place, visited_on, outcome, letter_sent, note, by_person)
VALUES (:id, my_association(), :case_id, :apiary_id, :place, :visited_on, :outcome, :letter_sent, :note, my_person());
