-- name: count_weeks
SELECT w.id, w.name, w.first_on, w.last_on, w.method, w.half_width, w.protocol,
       coalesce((SELECT name FROM member WHERE member.id = w.opened_by), '') AS opened_by,
       w.version, (SELECT count(*) FROM count_week_keeper k WHERE k.week_id = w.id) AS invited
FROM count_week w WHERE (:id::uuid IS NULL OR w.id = :id) ORDER BY w.first_on DESC, w.id;

-- name: week_overlaps
SELECT count(*) FROM count_week WHERE id <> :id AND first_on <= :last_on AND last_on >= :first_on;

-- name: add_count_week
INSERT INTO count_week (id, association_id, name, first_on, last_on, method, half_width, protocol, opened_by)
VALUES (:id, my_association(), :name, :first_on, :last_on, :method, :half_width, :protocol, my_person());

-- name: amend_count_week
UPDATE count_week SET name = :name, first_on = :first_on, last_on = :last_on, method = :method, half_width = :half_width,
       protocol = :protocol WHERE id = :id AND version = :version;

-- name: invite_keepers
WITH gone AS (
    DELETE FROM count_week_keeper WHERE week_id = :week_id AND NOT keeper_id = ANY(:keepers)
)
INSERT INTO count_week_keeper (week_id, keeper_id, association_id)
SELECT :week_id, k.id, my_association() FROM keeper k WHERE k.id = ANY(:keepers) ON CONFLICT DO NOTHING;

-- name: week_keepers
-- Who is invited, with whom to write to, and what of theirs was counted.
SELECT k.id, k.name, i.reminders, i.reminded_at, email_of_keeper(k.id) AS email
FROM count_week_keeper i JOIN keeper k ON k.id = i.keeper_id WHERE i.week_id = :week_id ORDER BY k.name, k.id;

-- name: week_apiaries
SELECT a.id, a.name, a.keeper_id, a.latitude, a.longitude,
       (SELECT count(*) FROM colony c WHERE c.apiary_id = a.id AND c.is_living) AS colonies
FROM apiary a WHERE a.keeper_id IN (SELECT keeper_id FROM count_week_keeper WHERE week_id = :week_id) ORDER BY a.name, a.id;

-- name: week_counts
-- Of each colony of those invited the latest jar between two days; a wash goes before a roll of the same day.
SELECT DISTINCT ON (m.colony_id) m.id, m.colony_id, c.label, c.apiary_id, m.method, m.taken_on, m.shakes, m.bees_known_by,
       r.mites, r.bees_mean, r.recovery, r.median, r.low, r.high,
       EXISTS (SELECT FROM course t WHERE t.colony_id = m.colony_id AND t.placed_on IS NOT NULL
               AND t.placed_on <= m.taken_on AND coalesce(t.ended_on, t.placed_on) > m.taken_on - 28) AS treated
FROM mite_count m JOIN colony c ON c.id = m.colony_id JOIN apiary a ON a.id = c.apiary_id
LEFT JOIN count_reading r ON r.count_id = m.id AND r.scale = 'mites_per_100'
WHERE m.taken_on BETWEEN :first_on AND :last_on AND m.method IN ('wash', 'sugar', 'co2')
AND a.keeper_id IN (SELECT keeper_id FROM count_week_keeper WHERE week_id = :week_id)
ORDER BY m.colony_id, (r.median IS NULL), m.taken_on DESC, m.method = 'wash' DESC, m.taken_at DESC, m.created_at DESC, m.id;

-- name: week_treatments
-- Courses of those invited that were placed between two days, by option, with what became of them.
SELECT t.option_id, count(DISTINCT t.colony_id) AS colonies, count(*) FILTER (WHERE t.verdict ->> 'word' = 'worked') AS worked,
       count(*) FILTER (WHERE t.verdict ->> 'word' = 'partly') AS partly,
       count(*) FILTER (WHERE t.verdict ->> 'word' = 'failed') AS failed,
       count(*) FILTER (WHERE t.verdict ->> 'word' = 'cannot_tell_yet') AS cannot_tell,
       count(*) FILTER (WHERE t.verdict IS NULL) AS not_verified
FROM course t JOIN apiary a ON a.id = t.apiary_id
WHERE t.placed_on BETWEEN :since AND :until AND a.keeper_id IN (SELECT keeper_id FROM count_week_keeper WHERE week_id = :week_id)
GROUP BY t.option_id ORDER BY colonies DESC, t.option_id;

-- name: wash_and_sugar
-- Colonies washed and rolled within three days of one another in these days.
SELECT DISTINCT ON (w.colony_id) rw.mites AS washed, rw.bees_mean AS wash_bees, rw.recovery AS wash_recovery,
       rs.mites AS rolled, rs.bees_mean AS sugar_bees
FROM mite_count w JOIN count_reading rw ON rw.count_id = w.id
JOIN mite_count s ON s.colony_id = w.colony_id AND s.method = 'sugar' AND abs(s.taken_on - w.taken_on) <= 3
JOIN count_reading rs ON rs.count_id = s.id
WHERE w.method = 'wash' AND w.taken_on BETWEEN :first_on AND :last_on AND s.taken_on BETWEEN :first_on AND :last_on
AND rw.scale = 'mites_per_100' ORDER BY w.colony_id, w.taken_at, w.id;

-- name: apiary_rates_between
SELECT rate FROM apiary_rates_between(:first_on, :last_on);

-- name: week_coarsely
SELECT * FROM week_coarsely(:week_id);

-- name: note_reminder
UPDATE count_week_keeper SET reminders = reminders + 1, reminded_at = :at WHERE week_id = :week_id AND keeper_id = :keeper_id;

-- name: colonies_by_name
SELECT c.id, c.label, a.name AS apiary FROM colony c JOIN apiary a ON a.id = c.apiary_id
WHERE c.is_living AND a.keeper_id IN (SELECT keeper_id FROM count_week_keeper WHERE week_id = :week_id);
