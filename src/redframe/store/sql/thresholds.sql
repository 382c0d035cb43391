-- name: policy_in_force
SELECT association_id, version, made_at, school, threshold_basis, scope, calendar, treatment_rules FROM policy
WHERE association_id = my_association() ORDER BY version DESC LIMIT 1;

-- name: add_policy
INSERT INTO policy (association_id, version, made_by, school, threshold_basis, scope, calendar, treatment_rules)
SELECT my_association(), coalesce(max(version), 0) + 1, my_person(), :school, :threshold_basis, :scope, :calendar,
       :treatment_rules
FROM policy WHERE association_id = my_association() RETURNING version;
