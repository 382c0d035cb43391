-- name: second_factor_of
SELECT person_id, secret, last_step FROM second_factor_of(:attempt);

-- name: second_factor_shown
SELECT second_factor_shown(:attempt, :step);

-- name: recovery_code_shown
SELECT recovery_code_shown(:attempt, :code_hash, :device);

-- name: my_second_factor
SELECT since, codes_left FROM my_second_factor();

-- name: begin_second_factor
SELECT my_second_factor_begin(:secret);

-- name: begun_second_factor
SELECT my_second_factor_begun();

-- name: confirm_second_factor
SELECT my_second_factor_confirm(:secret, :step, :code_hashes::bytea[]);

-- name: replace_recovery_codes
SELECT my_recovery_codes_set(:code_hashes::bytea[]);

-- name: end_second_factor
SELECT my_second_factor_end();
