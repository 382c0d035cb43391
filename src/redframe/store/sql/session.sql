-- name: sign_in_by_email
SELECT person_id, password_hash, membership_id FROM sign_in_lookup(:email);

-- name: reserve_sign_in
SELECT attempt, failed FROM sign_in_reserve(:email, :origin, :span, :most_by_both, :most_by_origin);

-- name: note_proved
SELECT sign_in_proved(:attempt);

-- name: note_my_proof
SELECT my_attempt_proved(:attempt);

-- name: open_session
SELECT session_open(:token_hash, :csrf_token, :membership_id, :lasts, :unused, :attempt, :link, :device);

-- name: session_by_token
SELECT person_id, membership_id, association_id, role, keeper_id, csrf_token, timezone, unseen
FROM session_lookup(:token_hash);

-- name: session_asking
SELECT person_id, membership_id, association_id, role, keeper_id, csrf_token, timezone, unseen, scope, changes
FROM session_asking(:token_hash, :shows, :record);

-- name: changes
SELECT coalesce(sum(n), 0)::bigint FROM change_count WHERE association_id = (SELECT my_association()) AND scope IN (:scope, 'shared');

-- name: session_seen
SELECT session_seen(:token_hash);

-- name: note_failure
SELECT sign_in_failed(:attempt, :device);

-- name: my_sessions
SELECT id, device, opened_at, seen_at, association, is_this FROM my_sessions(:token_hash);

-- name: end_session
SELECT my_session_end(:id);

-- name: my_security_events
SELECT at, kind, origin, device FROM security_event ORDER BY at DESC, id DESC LIMIT :most;

-- name: close_session
SELECT session_close(:token_hash);

-- name: close_all_sessions
SELECT session_close_all();

-- name: switch_session
SELECT session_switch(:token_hash, :membership_id);

-- name: me
SELECT p.id, p.email, p.name, p.temperature, p.mass, p.volume, p.theme, a.id AS association_id, a.name AS association,
       a.timezone
FROM person p, association a WHERE p.id = my_person() AND a.id = my_association();

-- name: my_places_of_work
SELECT membership_id, association_name, role FROM my_memberships();

-- name: amend_me
UPDATE person SET name = :name, temperature = :temperature, mass = :mass, volume = :volume, theme = :theme
WHERE id = my_person();

-- name: my_password
SELECT my_password_hash();

-- name: set_my_password
SELECT my_password_set(:checked_hash, :new_hash);
