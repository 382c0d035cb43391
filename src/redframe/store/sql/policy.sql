-- name: policy_in_force
SELECT association_id, version, created_at, scheme, threshold_basis, scope, calendar, levels, stale_after_days,
       stale_after_days_dormant, treatment_rules, scoops, disease_region FROM policy
WHERE association_id = my_association() ORDER BY version DESC LIMIT 1;

-- name: add_policy
INSERT INTO policy (association_id, version, created_by, scheme, threshold_basis, scope, calendar, levels, stale_after_days,
                    stale_after_days_dormant, treatment_rules, scoops, disease_region)
SELECT my_association(), coalesce(max(version), 0) + 1, my_person(), :scheme, :threshold_basis, :scope, :calendar, :levels,
       :stale_after_days, :stale_after_days_dormant, :treatment_rules, :scoops, :disease_region
FROM policy WHERE association_id = my_association() RETURNING version;

-- name: apiary_policies
SELECT DISTINCT ON (apiary_id) apiary_id, version, created_at,
       coalesce((SELECT name FROM member WHERE member.id = created_by), '') AS by_name, reason, scheme, scope,
       calendar, levels FROM apiary_policy ORDER BY apiary_id, version DESC;

-- name: apiary_policy
SELECT apiary_id, version, created_at,
       coalesce((SELECT name FROM member WHERE member.id = created_by), '') AS by_name, reason, scheme, scope, calendar, levels
FROM apiary_policy WHERE apiary_id = :apiary_id ORDER BY version DESC LIMIT 1;

-- name: add_apiary_policy
INSERT INTO apiary_policy (association_id, apiary_id, version, created_by, reason, scheme, scope, calendar, levels)
SELECT my_association(), :apiary_id, coalesce(max(version), 0) + 1, my_person(), :reason, :scheme, :scope, :calendar, :levels
FROM apiary_policy WHERE apiary_id = :apiary_id RETURNING version;
