-- name: members_page
-- Those who have left last, by name; `find` are small letters of a name, an address or a keeper.
SELECT * FROM (
    SELECT m.id, p.name, p.email, m.role, m.keeper_id, k.name AS keeper, m.ended_at, m.version, p.id = my_person() AS me,
           (CASE WHEN m.ended_at IS NULL THEN 'a' ELSE 'b' END || p.name) COLLATE "C" AS key
    FROM membership m JOIN person p ON p.id = m.person_id LEFT JOIN keeper k ON k.id = m.keeper_id
    WHERE m.association_id = my_association()
    AND (:find = '' OR strpos(lower(p.name || ' ' || p.email || ' ' || coalesce(k.name, '')), :find) > 0)) t
WHERE (key, id) > (:after_key, :after_id::uuid) ORDER BY key, id LIMIT :most;

-- name: member
SELECT m.id, p.name, p.email, m.role, m.keeper_id, k.name AS keeper, m.ended_at, m.version, p.id = my_person() AS me
FROM membership m JOIN person p ON p.id = m.person_id LEFT JOIN keeper k ON k.id = m.keeper_id
WHERE m.association_id = my_association() AND m.id = :id;

-- name: is_member
SELECT EXISTS (SELECT FROM membership m JOIN person p ON p.id = m.person_id
               WHERE m.association_id = my_association() AND m.ended_at IS NULL AND p.email = :email);

-- name: amend_member
UPDATE membership SET role = :role, keeper_id = :keeper_id,
       ended_at = CASE WHEN :ended THEN coalesce(ended_at, now()) END
WHERE id = :id AND association_id = my_association() AND version = :version;

-- name: open_invitations
SELECT i.id, i.email, i.role, i.keeper_id, k.name AS keeper, i.created_at, i.expires_at,
       coalesce((SELECT name FROM member WHERE member.id = i.created_by), '') AS by_name
FROM invitation i LEFT JOIN keeper k ON k.id = i.keeper_id
WHERE i.accepted_at IS NULL AND i.withdrawn_at IS NULL ORDER BY i.created_at DESC, i.id;

-- name: add_invitation
INSERT INTO invitation (id, association_id, email, role, keeper_id, token_hash, created_by, expires_at)
VALUES (:id, my_association(), :email, :role, :keeper_id, :token_hash, my_person(), now() + :lasts);

-- name: renew_invitation
UPDATE invitation SET token_hash = :token_hash, expires_at = now() + :lasts
WHERE id = :id AND accepted_at IS NULL AND withdrawn_at IS NULL;

-- name: withdraw_invitation
UPDATE invitation SET withdrawn_at = now() WHERE id = :id AND accepted_at IS NULL AND withdrawn_at IS NULL;

-- name: invitation_by_token
SELECT association, role, keeper, email, password_hash FROM invitation_lookup(:token_hash);

-- name: accept_invitation
SELECT membership_id FROM invitation_accept(:token_hash, :person_id, :membership_id, :name, :password_hash);
