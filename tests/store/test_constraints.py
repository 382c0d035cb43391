"""What no record can be, whatever wrote it: every check of the database refuses what it is there for."""

from __future__ import annotations

import unittest
from collections.abc import Sequence

import psycopg
from psycopg import errors

from tests.support import demo_template, new_database

LONG = "repeat('x', 2001)"
LONG_REASON = "repeat('x', 401)"
LONG_NAME = "repeat('x', 121)"
REFUSED: dict[str, Sequence[tuple[str, str]]] = {
    "apiary": (
        ("name = ''", "apiary_name_check"),
        (f"name = {LONG_NAME}", "apiary_name_check"),
        ("latitude = 90.1", "apiary_latitude_check"),
        ("latitude = -91", "apiary_latitude_check"),
        ("longitude = 180.5", "apiary_longitude_check"),
        ("longitude = -181", "apiary_longitude_check"),
        ("elevation_m = 6001", "apiary_elevation_m_check"),
        ("elevation_m = -431", "apiary_elevation_m_check"),
        (f"access_note = {LONG}", "apiary_access_note_check"),
        (f"forage_note = {LONG}", "apiary_forage_note_check"),
    ),
    "apiary_policy": (
        ("scope = 'some'", "apiary_policy_scope_check"),
        (f"reason = {LONG_REASON}", "apiary_policy_reason_check"),
        ("version = 0", "apiary_policy_version_check"),
    ),
    "association": (("name = ''", "association_name_check"), (f"name = {LONG_NAME}", "association_name_check")),
    "audit": (("act = 'deleted'", "audit_act_check"),),
    "guide_step": (("step = 'dates'", "guide_step_step_check"),),
    "board_picture": (
        ("grid_columns = 0", "board_picture_grid_columns_check"),
        ("grid_columns = 21", "board_picture_grid_columns_check"),
        ("grid_rows = 0", "board_picture_grid_rows_check"),
        ("grid_rows = 21", "board_picture_grid_rows_check"),
        ("width = 0", "board_picture_width_check"),
        ("height = 0", "board_picture_height_check"),
        ("width_mm = 19", "board_picture_width_mm_check"),
        ("width_mm = 2001", "board_picture_width_mm_check"),
        ("count_id = gen_random_uuid(), marks = NULL", "board_picture_check"),
    ),
    "case_transition": (("track = 'side'", "case_transition_track_check"), ("lifts = 'at times'", "case_transition_lifts_check")),
    "disease_case": (
        ("number = '31-1'", "disease_case_number_check"),
        ("disease = 'chalkbrood'", "disease_case_disease_check"),
        ("rules = array_fill('R1'::text, ARRAY[41])", "disease_case_rules_check"),
        ("law = ''", "disease_case_law_check"),
        ("hold = 'perhaps'", "disease_case_hold_check"),
        ("tracing = 'begun'", "disease_case_tracing_check"),
        ("radius = 'begun'", "disease_case_radius_check"),
    ),
    "case_step": (
        ("act = 'By Hand'", "case_step_act_check"),
        ("track = 'side'", "case_step_track_check"),
        ("evidence = jsonb_build_object('text', repeat('x', 12001))", "case_step_evidence_check"),
    ),
    "standstill": (
        ("kind = 'firm'", "standstill_kind_check"),
        ("covers = 'island'", "standstill_covers_check"),
        (f"reference = {LONG_NAME}", "standstill_reference_check"),
        ("until = since - 1", "standstill_check"),
    ),
    "case_photo": (
        ("caption = repeat('x', 401)", "case_photo_caption_check"),
        ("width = 4097", "case_photo_width_check"),
        ("height = 0", "case_photo_height_check"),
        ("picture = decode(repeat('00', 4000001), 'hex')", "case_photo_picture_check"),
        ("thumbnail = decode(repeat('00', 200001), 'hex')", "case_photo_thumbnail_check"),
    ),
    "around_visit": (
        ("place = repeat('x', 121), apiary_id = NULL", "around_visit_place_check"),
        ("outcome = 'away'", "around_visit_outcome_check"),
        (f"note = {LONG}", "around_visit_note_check"),
        ("apiary_id = NULL, place = ''", "around_visit_where_check"),
    ),
    "pest_check": (
        ("pest = 'Ants!'", "pest_check_pest_check"),
        ("score = 6", "pest_check_score_check"),
        ("counted = jsonb_build_object('x', repeat('x', 2001))", "pest_check_counted_check"),
        ("answer = jsonb_build_object('x', repeat('x', 4001))", "pest_check_answer_check"),
        (f"done = {LONG_REASON}", "pest_check_done_check"),
        ("look_from = seen_on - 1, look_by = seen_on", "pest_check_check"),
        ("look_from = seen_on, look_by = seen_on - 1", "pest_check_check1"),
        ("disease_by = seen_on - 1", "pest_check_check2"),
        (f"note = {LONG}", "pest_check_note_check"),
        (f"withdrawn_why = {LONG_REASON}", "pest_check_withdrawn_why_check"),
        ("look_from = NULL, look_by = seen_on", "pest_check_days_check"),
    ),
    "pest_trap": (
        ("kind = 'glue'", "pest_trap_kind_check"),
        (f"place = {LONG_NAME}", "pest_trap_place_check"),
        ("number = 0", "pest_trap_number_check"),
        ("removed_on = placed_on - 1", "pest_trap_check"),
    ),
    "trap_reading": (
        ("caught = -1", "trap_reading_caught_check"),
        ("days = 0.5", "trap_reading_days_check"),
    ),
    "entrance_state": (
        ("width_mm = 421", "entrance_state_width_mm_check"),
        ("device = 'door'", "entrance_state_device_check"),
        (f"why = {LONG_REASON}", "entrance_state_why_check"),
        ("device = 'shut', width_mm = 10", "entrance_state_shut_check"),
    ),
    "deadout": (
        ("state = 'open', kept = NULL, closed_at = NULL", "deadout_state_check"),
        ("examined_on = found_on - 1", "deadout_check"),
        ("cause = 'Mites!'", "deadout_cause_check"),
        ("chain = array_fill('a'::text, ARRAY[21])", "deadout_chain_check"),
        ("kept = NULL", "deadout_kept_check"),
    ),
    "deadout_step": (
        ("step = 'attic'", "deadout_step_step_check"),
        ("record = jsonb_build_object('note', repeat('x', 60001))", "deadout_step_record_check"),
    ),
    "deadout_photo": (
        ("step = 'Floor 1'", "deadout_photo_step_check"),
        ("caption = repeat('x', 401)", "deadout_photo_caption_check"),
        ("width = 4097", "deadout_photo_width_check"),
        ("height = 0", "deadout_photo_height_check"),
        ("picture = decode(repeat('00', 4000001), 'hex')", "deadout_photo_picture_check"),
        ("thumbnail = decode(repeat('00', 200001), 'hex')", "deadout_photo_thumbnail_check"),
    ),
    "foulbrood_exclusion": (
        ("found_by = 'hearsay'", "foulbrood_exclusion_found_by_check"),
        ("found_by = 'laboratory', reference = ''", "foulbrood_exclusion_evidence_check"),
        ("reference = repeat('x', 121)", "foulbrood_exclusion_reference_check"),
        ("why = 'x'", "foulbrood_exclusion_why_check"),
        ("withdrawn_on = excluded_on - 1", "foulbrood_exclusion_check"),
        (f"withdrawn_why = {LONG_REASON}", "foulbrood_exclusion_withdrawn_why_check"),
    ),
    "item_fate": (
        ("fate = 'Melt!'", "item_fate_fate_check"),
        ("done_on = decided_on - 1", "item_fate_check"),
        (f"reason = {LONG_REASON}", "item_fate_reason_check"),
    ),
    "handling": (
        ("condition = 'Chalk'", "handling_condition_check"),
        ("option = 'Wait!'", "handling_option_check"),
        ("reason = 'x'", "handling_reason_check"),
        ("recheck_from = chosen_on - 1", "handling_check"),
        ("recheck_to = recheck_from - 1", "handling_check1"),
        ("cells = -1", "handling_cells_check"),
        ("combs_with_sign = 401", "handling_combs_with_sign_check"),
        ("combs = array_fill(gen_random_uuid(), ARRAY[41])", "handling_combs_check"),
        ("state = 'lost', ended_on = chosen_on", "handling_state_check"),
        ("state = 'ended', ended_on = chosen_on - 1", "handling_check2"),
        ("outcome = 'well'", "handling_outcome_check"),
        (f"ended_why = {LONG_REASON}", "handling_ended_why_check"),
        ("state = 'ended', ended_on = NULL", "handling_ended_check"),
    ),
    "movement": (
        ("way = 'stayed', elsewhere = 'x'", "movement_way_check"),
        ("kind = 'A swarm'", "movement_kind_check"),
        ("latest = earliest - 1", "movement_days_check"),
        ("other_colony_id = colony_id, elsewhere = ''", "movement_other_check"),
        ("elsewhere = repeat('x', 121), other_colony_id = NULL", "movement_elsewhere_check"),
        ("node = ''", "movement_node_check"),
        (f"note = {LONG}", "movement_note_check"),
        (f"withdrawn_why = {LONG_REASON}", "movement_withdrawn_why_check"),
        ("way = 'went', other_colony_id = NULL, elsewhere = ''", "movement_target_check"),
        ("elsewhere = 'x', other_colony_id = gen_random_uuid()", "movement_one_end_check"),
    ),
    "trace_list": (
        ("number = 0", "trace_list_number_check"),
        ("content = to_jsonb(repeat('x', 30000001))", "trace_list_content_check"),
    ),
    "case_sample": (
        ("code = 'abc'", "case_sample_code_check"),
        ("kind = 'wax'", "case_sample_kind_check"),
        ("taken_from = repeat('x', 201)", "case_sample_taken_from_check"),
    ),
    "custody_line": (
        ("kind = 'lost'", "custody_line_kind_check"),
        ("by_name = ''", "custody_line_by_name_check"),
        (f"to_name = {LONG_NAME}", "custody_line_to_name_check"),
        ("seal = repeat('x', 41)", "custody_line_seal_check"),
        ("temperature_c = 61", "custody_line_temperature_c_check"),
    ),
    "laboratory_document": (
        ("kind = 'letter'", "laboratory_document_kind_check"),
        ("content = jsonb_build_object('text', repeat('x', 8001))", "laboratory_document_content_check"),
        ("signature = 'x'", "laboratory_document_signature_check"),
    ),
    "colony": (
        ("label = ''", "colony_label_check"),
        ("label = repeat('x', 25)", "colony_label_check"),
        (f"note = {LONG}", "colony_note_check"),
        ("hive_side = 'middle'", "colony_hive_side_check"),
    ),
    "colony_event": (
        ("kind = 'stolen'", "colony_event_kind_check"),
        (f"note = {LONG}", "colony_event_note_check"),
        (f"override_why = {LONG_REASON}", "colony_event_override_why_check"),
    ),
    "colony_forecast": (
        ("low80 = '{1,2,3}'", "colony_forecast_check"),
        ("high80 = '{}'", "colony_forecast_check"),
        ("p_over_ahead = 1.1", "colony_forecast_p_over_ahead_check"),
        ("p_over_ahead = -0.1", "colony_forecast_p_over_ahead_check"),
    ),
    "colony_hold": (
        ("until = since - 1", "colony_hold_check"),
        ("kind = 'mild'", "colony_hold_kind_check"),
        ("why = 'no'", "colony_hold_why_check"),
        (f"why = {LONG_REASON}", "colony_hold_why_check"),
        (f"lifted_why = {LONG_REASON}", "colony_hold_lifted_why_check"),
    ),
    "colony_status": (("until = since", "colony_status_check"), ("until = since - 1", "colony_status_check")),
    "count_reading": (
        ("scale = 'mites', bees_mean = NULL, bees_cv = NULL, recovery = NULL", "count_reading_scale_check"),
        ("board_days = 0, board_cv = 0", "count_reading_board_days_check"),
        ("board_days = 1, board_cv = -0.1", "count_reading_board_cv_check"),
        ("scale = 'mites_per_100', bees_mean = NULL", "count_reading_check"),
        ("scale = 'mites_per_100', bees_mean = 300, bees_cv = 0, recovery = NULL", "count_reading_check"),
        ("scale = 'percent_of_cells', bees_mean = NULL, bees_cv = NULL, recovery = NULL, board_days = 3, board_cv = 0",
         "count_reading_check1"),
        ("scale = 'mites_per_day', bees_mean = NULL, bees_cv = NULL, recovery = NULL, board_days = NULL",
         "count_reading_check1"),
    ),
    "count_week": (
        ("name = ''", "count_week_name_check"),
        ("last_on = first_on - 1", "count_week_check"),
        ("last_on = first_on + 21", "count_week_check"),
        ("half_width = 0.05", "count_week_half_width_check"),
        ("half_width = 2.1", "count_week_half_width_check"),
        ("method = 'board'", "count_week_method_check"),
        (f"protocol = {LONG}", "count_week_protocol_check"),
    ),
    "course": (
        ("dose_quantity = 0", "course_dose_quantity_check"),
        ("interval_override = 0", "course_interval_override_check"),
        ("interval_override = 61", "course_interval_override_check"),
        ("dose_quantity = NULL, is_earlier = false", "course_dose_check"),
    ),
    "course_act": (
        ("outcome = 'half'", "course_act_outcome_check"),
        ("quantity = 0", "course_act_quantity_check"),
        ("quantity = -1", "course_act_quantity_check"),
        ("lot = repeat('x', 81)", "course_act_lot_check"),
        (f"note = {LONG}", "course_act_note_check"),
        (f"override_by = {LONG_NAME}", "course_act_override_by_check"),
        (f"override_why = {LONG}", "course_act_override_why_check"),
    ),
    "product_lot": (
        ("product = ''", "product_lot_product_check"),
        (f"product = {LONG_NAME}", "product_lot_product_check"),
        ("option_ids = '{}'", "product_lot_option_ids_check"),
        ("option_ids = array_fill('x'::text, ARRAY[13])", "product_lot_option_ids_check"),
        ("unit = ''", "product_lot_unit_check"),
        ("quantity = 0", "product_lot_quantity_check"),
        ("quantity = 1000001", "product_lot_quantity_check"),
        ("strength = repeat('x', 81)", "product_lot_strength_check"),
        ("lot = repeat('x', 81)", "product_lot_lot_check"),
        (f"supplier = {LONG_NAME}", "product_lot_supplier_check"),
        (f"receipt = {LONG_NAME}", "product_lot_receipt_check"),
        (f"note = {LONG}", "product_lot_note_check"),
        ("expires_on = bought_on - 1", "product_lot_check"),
        ("made_from = id", "product_lot_check1"),
    ),
    "lot_change": (
        ("kind = 'eaten'", "lot_change_kind_check"),
        ("quantity = 0", "lot_change_quantity_check"),
        (f"how = {LONG_REASON}", "lot_change_how_check"),
    ),
    "register_entry": (
        ("kind = 'changed', line = NULL", "register_entry_kind_check"),
        (f"why = {LONG}", "register_entry_why_check"),
        ("kind = 'amended', line = '{}'", "register_entry_check"),
    ),
    "brood_event": (
        ("kind = 'rested', release_on = NULL", "brood_event_kind_check"),
        ("kind = 'queen_caged', release_on = happened_on - 1", "brood_event_check"),
        ("kind = 'swarm_left', release_on = happened_on", "brood_event_check1"),
        (f"withdrawn_why = {LONG_REASON}", "brood_event_withdrawn_why_check"),
    ),
    "hive_act": (
        ("act = 'Queen held'", "hive_act_act_check"),
        ("details = jsonb_build_object('x', repeat('x', 8000))", "hive_act_details_check"),
        (f"note = {LONG}", "hive_act_note_check"),
        (f"withdrawn_why = {LONG_REASON}", "hive_act_withdrawn_why_check"),
    ),
    "harvest": (
        ("honey_for = 'mice'", "harvest_honey_for_check"),
        ("honey_kg = 0", "harvest_honey_kg_check"),
        ("honey_kg = 200.5", "harvest_honey_kg_check"),
        ("batch = repeat('x', 81)", "harvest_batch_check"),
        (f"note = {LONG}", "harvest_note_check"),
        (f"override_by = {LONG_NAME}, override_why = 'x'", "harvest_override_by_check"),
        (f"override_by = 'x', override_why = {LONG_REASON}", "harvest_override_why_check"),
        ("override_by = 'somebody', override_why = ''", "harvest_check"),
        (f"withdrawn_why = {LONG_REASON}", "harvest_withdrawn_why_check"),
    ),
    "earlier_treatment": (
        ("doses_on = '{}'", "earlier_treatment_doses_on_check"),
        ("doses_on = array_fill('2031-01-01'::date, ARRAY[21])", "earlier_treatment_doses_on_check"),
        ("end_known = 'perhaps'", "earlier_treatment_end_known_check"),
        ("outcome = 'well'", "earlier_treatment_outcome_check"),
        (f"given_by = {LONG_NAME}", "earlier_treatment_given_by_check"),
        ("known_from = 'rumour'", "earlier_treatment_known_from_check"),
        (f"note = {LONG}", "earlier_treatment_note_check"),
        (f"withdrawn_why = {LONG_REASON}", "earlier_treatment_withdrawn_why_check"),
    ),
    "treatments_known": (("known_from = 'rumour'", "treatments_known_known_from_check"),),
    "course_step": (("earliest = ideal + 1", "course_step_check"), ("latest = ideal - 1", "course_step_check")),
    "forecast_evaluation": (
        ("between = 'never'", "forecast_evaluation_between_check"),
        ("counts = 0", "forecast_evaluation_counts_check"),
        ("above = 1.01", "forecast_evaluation_above_check"),
        ("happened = -0.01", "forecast_evaluation_happened_check"),
        ("held50 = 1.01", "forecast_evaluation_held50_check"),
        ("held80 = -0.01", "forecast_evaluation_held80_check"),
        ("held95 = 1.01", "forecast_evaluation_held95_check"),
        ("brier = 1.01", "forecast_evaluation_brier_check"),
        ("brier_stays = -0.01", "forecast_evaluation_brier_stays_check"),
        ("brier_one_rate = 1.01", "forecast_evaluation_brier_one_rate_check"),
    ),
    "forecast_run": (
        ("colonies = -1, done = 0", "forecast_run_check"),
        ("colonies = 3, done = 4", "forecast_run_check"),
        ("done = -1", "forecast_run_check"),
        (f"note = {LONG_REASON}", "forecast_run_note_check"),
        ("state = 'lost'", "forecast_run_state_check"),
    ),
    "frame": (
        ("away = 'shed', box_id = NULL, slot = NULL", "frame_away_check"),
        ("away = 'store'", "frame_check"),
        ("away = NULL, box_id = NULL, slot = NULL", "frame_check"),
        ("slot = NULL", "frame_check1"),
        ("slot = 0", "frame_slot_check"),
        ("slot = 41", "frame_slot_check"),
        ("comb_year = 1949", "frame_comb_year_check"),
        ("comb_year = 2201", "frame_comb_year_check"),
        ("kind = 'glass'", "frame_kind_check"),
    ),
    "frame_move": (
        ("rule = 'hold_signs', override_why = ''", "frame_move_check"),
        ("rule = '', override_why = 'because'", "frame_move_check"),
        (f"note = {LONG}", "frame_move_note_check"),
        (f"rule = 'x', override_why = {LONG_REASON}", "frame_move_override_why_check"),
    ),
    "hive": (
        ("hive_type = ''", "hive_hive_type_check"),
        ("hive_type = repeat('x', 81)", "hive_hive_type_check"),
        ("floor = 'earth'", "hive_floor_check"),
        ("numbered_from = 'front'", "hive_numbered_from_check"),
        ("divided_after = 0", "hive_divided_after_check"),
        ("divided_after = 40", "hive_divided_after_check"),
    ),
    "hive_box": (
        ("until = since - 1", "hive_box_check"),
        ("frames = 10, frame_format = NULL", "hive_box_check1"),
        ("purpose = 'brood', frames = 0, frame_format = NULL", "hive_box_check2"),
        ("purpose = 'excluder', frames = 10, frame_format = 'A_deep'", "hive_box_check2"),
        ("frames = 41", "hive_box_frames_check"),
        ("purpose = 'eke', frames = -1", "hive_box_frames_check"),
        ("position = 0", "hive_box_position_check"),
        ("position = 25", "hive_box_position_check"),
        ("purpose = 'attic', frames = 0, frame_format = NULL", "hive_box_purpose_check"),
    ),
    "insert_board": (
        ("removed_at = placed_at - interval '1 hour'", "insert_board_check"),
        ("removed_at = NULL, count_id = gen_random_uuid()", "insert_board_check1"),
        ("cleaned = 'maybe'", "insert_board_cleaned_check"),
        ("greased = 'maybe'", "insert_board_greased_check"),
    ),
    "invitation": (
        ("role = 'keeper', keeper_id = NULL", "invitation_check"),
        ("role = 'mentor', keeper_id = gen_random_uuid()", "invitation_check"),
        ("email = 'Orla@moor.example'", "invitation_email_check"),
        ("email = 'a'", "invitation_email_check"),
    ),
    "second_factor": (
        ("secret = repeat('A', 15)", "second_factor_secret_check"),
        ("secret = repeat('A', 65)", "second_factor_secret_check"),
    ),
    "security_event": (
        ("kind = 'looked around'", "security_event_kind_check"),
        ("origin = repeat('1', 65)", "security_event_origin_check"),
        ("device = repeat('x', 81)", "security_event_device_check"),
    ),
    "session": (("device = repeat('x', 81)", "session_device_check"),),
    "keeper": (
        ("name = ''", "keeper_name_check"),
        (f"name = {LONG_NAME}", "keeper_name_check"),
        ("phone = repeat('1', 41)", "keeper_phone_check"),
        ("registration = repeat('1', 41)", "keeper_registration_check"),
    ),
    "membership": (
        ("role = 'keeper', keeper_id = NULL", "membership_check"),
        ("role = 'mentor', keeper_id = gen_random_uuid()", "membership_check"),
    ),
    "person": (
        ("name = ''", "person_name_check"),
        ("email = 'Upper@moor.example'", "person_email_check"),
        ("email = repeat('a', 255)", "person_email_check"),
        ("mass = 'stone'", "person_mass_check"),
        ("temperature = 'kelvin'", "person_temperature_check"),
        ("volume = 'pint'", "person_volume_check"),
        ("theme = 'blue'", "person_theme_check"),
    ),
    "photo": (
        ("caption = repeat('x', 401)", "photo_caption_check"),
        ("width = 0", "photo_width_check"),
        ("width = 4097", "photo_width_check"),
        ("height = 0", "photo_height_check"),
        ("height = 4097", "photo_height_check"),
        ("sign = repeat('x', 41)", "photo_sign_check"),
        ("picture = decode(repeat('00', 4000001), 'hex')", "photo_picture_check"),
        ("thumbnail = decode(repeat('00', 200001), 'hex')", "photo_thumbnail_check"),
    ),
    "policy": (
        ("scoops = '{}'", "policy_scoops_check"),
        ("scope = 'some'", "policy_scope_check"),
        ("stale_after_days = 6", "policy_stale_after_days_check"),
        ("stale_after_days = 121", "policy_stale_after_days_check"),
        ("stale_after_days_dormant = 6", "policy_stale_after_days_dormant_check"),
        ("stale_after_days_dormant = 201", "policy_stale_after_days_dormant_check"),
        ("threshold_basis = 'guessed'", "policy_threshold_basis_check"),
        ("version = 0", "policy_version_check"),
    ),
    "queen": (
        ("until = since - 1", "queen_check"),
        ("mark_seen = 'pink'", "queen_mark_seen_check"),
        ("status = 'asleep'", "queen_status_check"),
        ("year = 1949", "queen_year_check"),
        ("year = 2201", "queen_year_check"),
    ),
    "visit": (
        ("state = 'lost'", "visit_state_check"),
        ("state = 'closed', place = NULL", "visit_check1"),
        ("strength = 5, strength_unit = NULL", "visit_check"),
        ("strength = NULL, strength_unit = 'frames'", "visit_check"),
        ("strength = -1, strength_unit = 'frames'", "visit_strength_check"),
        ("strength = 61, strength_unit = 'frames'", "visit_strength_check"),
        ("strength = 5, strength_unit = 'boxes'", "visit_strength_unit_check"),
        ("capped_brood = 'perhaps'", "visit_capped_brood_check"),
        ("capped_cells = -1", "visit_capped_cells_check"),
        ("frames_of_bees = -1", "visit_frames_of_bees_check"),
        ("frames_of_brood = -1", "visit_frames_of_brood_check"),
        ("seams_of_bees = -1", "visit_seams_of_bees_check"),
        ("stores_kg = -0.1", "visit_stores_kg_check"),
        ("pattern_empty_pct = 101", "visit_pattern_empty_pct_check"),
        ("temper = 0", "visit_temper_check"),
        ("temper = 11", "visit_temper_check"),
        (f"note = {LONG}", "visit_note_check"),
    ),
    "visit_frame": (("slot = 0", "visit_frame_slot_check"), ("slot = 41", "visit_frame_slot_check")),
}  # fmt: skip
"""Changes to a row of the demo that each break one check, and the check that says so."""

JAR = "method = 'wash', shakes = '{3,0}', bees_known_by = 'counted', bees = 300, place_of_bees = 'brood_frame', queen_safe = 'yes'"
BOARD = (
    "method = 'board', placed_at = taken_at - interval '3 days', squares = '{4}', squares_in_all = 1, cleaned = 'yes', "
    "greased = 'yes', ants = 'no'"
)
NO_JAR = "shakes = NULL, bees_known_by = NULL, bees = NULL, volume_ml = NULL, mass_g = NULL, place_of_bees = NULL, queen_safe = NULL, rested_s = NULL, wet = NULL"
NO_BOARD = "placed_at = NULL, squares = NULL, squares_in_all = NULL, cleaned = NULL, greased = NULL, ants = NULL"
NO_DRONE = "cells_opened = NULL, cells_infested = NULL, mites_in_cells = NULL, patches = NULL"
COUNTS: Sequence[tuple[str, str, str]] = (
    ("wash", "bees = NULL", "mite_count_check2"),
    ("wash", "bees_known_by = 'volume_level', bees = NULL", "mite_count_check3"),
    ("wash", "volume_ml = 120", "mite_count_check3"),
    ("wash", "bees_known_by = 'mass_dry', bees = NULL", "mite_count_check4"),
    ("wash", "mass_g = 40", "mite_count_check4"),
    ("wash", "bees = 0", "mite_count_bees_check"),
    ("wash", "bees = 5001", "mite_count_bees_check"),
    ("wash", "bees_known_by = 'guess'", "mite_count_bees_known_by_check"),
    ("wash", "bees_known_by = 'volume_level', bees = NULL, volume_ml = 4", "mite_count_volume_ml_check"),
    ("wash", "bees_known_by = 'volume_level', bees = NULL, volume_ml = 1001", "mite_count_volume_ml_check"),
    ("wash", "bees_known_by = 'mass_dry', bees = NULL, mass_g = 0.5", "mite_count_mass_g_check"),
    ("wash", "bees_known_by = 'mass_dry', bees = NULL, mass_g = 501", "mite_count_mass_g_check"),
    ("wash", "shakes = '{}'", "mite_count_shakes_check"),
    ("wash", "shakes = '{3,-1}'", "mite_count_shakes_check"),
    ("wash", "shakes = '{1,1,1,1,1,1,1,1,1}'", "mite_count_shakes_check"),
    ("wash", "shakes = NULL", "mite_count_jar"),
    ("wash", "queen_safe = NULL", "mite_count_jar"),
    ("wash", "place_of_bees = NULL", "mite_count_jar"),
    ("wash", "place_of_bees = 'roof'", "mite_count_place_of_bees_check"),
    ("wash", "queen_safe = 'maybe'", "mite_count_queen_safe_check"),
    ("wash", "brood_state = 'some'", "mite_count_brood_state_check"),
    ("wash", "method = 'co2'", "mite_count_roll"),
    ("wash", "method = 'sugar', shakes = '{3}'", "mite_count_sugar"),
    ("wash", "rested_s = 60", "mite_count_sugar"),
    ("wash", "method = 'sugar', shakes = '{3}', wet = 'damp'", "mite_count_wet_check"),
    ("wash", "method = 'sugar', shakes = '{3}', wet = 'no', rested_s = 7201", "mite_count_rested_s_check"),
    ("wash", f"method = 'smoke', {NO_JAR}", "mite_count_method_check"),
    ("wash", "method = 'look'", "mite_count_jar"),
    ("wash", "mites_seen = true", "mite_count_look"),
    ("wash", "squares = '{1}'", "mite_count_board"),
    ("wash", "cells_opened = 10, cells_infested = 1", "mite_count_drone"),
    ("wash", f"note = {LONG}", "mite_count_note_check"),
    ("board", "cleaned = NULL", "mite_count_board"),
    ("board", "placed_at = taken_at", "mite_count_board"),
    ("board", "squares = '{1,2}'", "mite_count_board"),
    ("board", "squares = '{}'", "mite_count_squares_check"),
    ("board", "squares = '{-1}'", "mite_count_squares_check"),
    ("board", "squares_in_all = 401", "mite_count_squares_in_all_check"),
    ("board", "cleaned = 'maybe'", "mite_count_cleaned_check"),
    ("board", "greased = 'maybe'", "mite_count_greased_check"),
    ("board", "ants = 'few'", "mite_count_ants_check"),
    ("board", "bees_known_by = 'counted', bees = 300", "mite_count_jar"),
    ("drone_brood", "cells_infested = NULL", "mite_count_drone"),
    ("drone_brood", "cells_infested = 81", "mite_count_check"),
    ("drone_brood", "cells_infested = -1", "mite_count_check"),
    ("drone_brood", "mites_in_cells = 3", "mite_count_check1"),
    ("drone_brood", "cells_opened = 0, cells_infested = 0, mites_in_cells = NULL", "mite_count_cells_opened_check"),
    ("drone_brood", "patches = 51", "mite_count_patches_check"),
    ("drone_brood", "patches = 0", "mite_count_patches_check"),
    ("look", "mites_seen = NULL", "mite_count_look"),
)
"""A sound count of a kind, what is changed of it, and the check that refuses it."""
KINDS = {
    "wash": f"{JAR}, {NO_BOARD}, {NO_DRONE}, volume_ml = NULL, mass_g = NULL, rested_s = NULL, wet = NULL, mites_seen = NULL",
    "board": f"{BOARD}, {NO_JAR}, {NO_DRONE}, mites_seen = NULL",
    "drone_brood": f"method = 'drone_brood', cells_opened = 80, cells_infested = 12, mites_in_cells = 19, patches = 3, {NO_JAR}, {NO_BOARD}, mites_seen = NULL",
    "look": f"method = 'look', mites_seen = false, {NO_JAR}, {NO_BOARD}, {NO_DRONE}",
}
SEEDS = {
    "colony_hold": "INSERT INTO colony_hold (id, association_id, colony_id, kind, since, why, by_person) "
    "SELECT gen_random_uuid(), association_id, id, 'other', '2031-07-01', 'waits for a letter', gen_random_uuid() FROM colony LIMIT 1",
    "forecast_run": "INSERT INTO forecast_run (id, association_id, for_day, colonies, done, state) "
    "SELECT gen_random_uuid(), id, '2031-08-02', 3, 3, 'done' FROM association LIMIT 1",
    "forecast_evaluation": "INSERT INTO forecast_evaluation (association_id, between, looked_on, since, counts, days, held50, held80, "
    "held95, above, happened, brier, brier_stays, brier_one_rate) "
    "SELECT id, 'treated', '2031-08-02', '2030-08-02', 60, 20, .5, .8, .95, .5, .1, .1, .1, .1 FROM association LIMIT 1",
    "colony_forecast": "INSERT INTO colony_forecast (colony_id, association_id, run_id, for_day, counted_on, act_per_100, median, "
    "low80, high80, p_over_ahead, effective, disagree) SELECT id, association_id, gen_random_uuid(), '2031-08-02', '2031-08-01', 2, "
    "'{1,2}', '{1,1}', '{2,3}', 0.4, 500, false FROM colony LIMIT 1",
    "invitation": "INSERT INTO invitation (id, association_id, email, role, token_hash, created_by, expires_at) "
    "SELECT gen_random_uuid(), id, 'wren@moor.example', 'mentor', '\\x01', gen_random_uuid(), now() FROM association LIMIT 1",
    "second_factor": "INSERT INTO second_factor (person_id, secret) SELECT id, repeat('A', 32) FROM person LIMIT 1",
    "security_event": "INSERT INTO security_event (person_id, kind) SELECT id, 'signed_in' FROM person LIMIT 1",
    "session": "INSERT INTO session (token_hash, csrf_token, membership_id, expires_at) "
    "SELECT gen_random_uuid()::text::bytea, 'token', id, now() + interval '1 day' FROM membership LIMIT 1",
    "photo": "INSERT INTO photo (id, association_id, colony_id, visit_id, sign, caption, width, height, picture, thumbnail, by_person) "
    "SELECT gen_random_uuid(), association_id, colony_id, id, '', '', 10, 10, '\\x00', '\\x00', gen_random_uuid() FROM visit LIMIT 1",
    "case_photo": "INSERT INTO case_photo (id, association_id, case_id, width, height, picture, thumbnail) "
    "SELECT gen_random_uuid(), association_id, id, 10, 10, '\\x00', '\\x00' FROM disease_case LIMIT 1",
    "around_visit": "INSERT INTO around_visit (id, association_id, case_id, apiary_id, visited_on, outcome) "
    "SELECT gen_random_uuid(), association_id, id, apiary_id, '2031-08-02', 'clear' FROM disease_case LIMIT 1",
    "deadout_photo": "INSERT INTO deadout_photo (id, association_id, colony_id, deadout_id, step, width, height, picture, thumbnail) "
    "SELECT gen_random_uuid(), association_id, colony_id, id, 'floor', 10, 10, '\\x00', '\\x00' FROM deadout LIMIT 1",
    "handling": "INSERT INTO handling (id, association_id, colony_id, visit_id, condition, option, reason, chosen_on, recheck_from, "
    "recheck_to, cells, combs_with_sign) SELECT gen_random_uuid(), association_id, colony_id, id, 'chalkbrood', 'wait_for_flow', "
    "'light', '2031-07-01', '2031-07-15', '2031-07-22', 20, 2 FROM visit LIMIT 1",
    "movement": "INSERT INTO movement (id, association_id, colony_id, way, kind, earliest, latest, node, is_seen) "
    "SELECT gen_random_uuid(), association_id, id, 'came', 'swarm', '2031-07-01', '2031-07-01', 'unknown', true FROM colony LIMIT 1",
    "trace_list": "INSERT INTO trace_list (id, association_id, case_id, number, made_on, content) "
    "SELECT gen_random_uuid(), association_id, id, 1, '2031-08-02', '{}' FROM disease_case LIMIT 1",
    "frame_move": "INSERT INTO frame_move (id, association_id, act_id, frame_id, moved_on, from_apiary, to_apiary, to_away, rule, "
    "override_why, note, by_person) SELECT gen_random_uuid(), association_id, gen_random_uuid(), id, '2031-07-01', apiary_id, apiary_id, "
    "'store', '', '', '', gen_random_uuid() FROM frame LIMIT 1",
}
"""A row for tables that the demo leaves empty."""


class Checks(unittest.TestCase):
    owner: psycopg.Connection[tuple[object, ...]]

    @classmethod
    def setUpClass(cls) -> None:
        cls.owner = psycopg.connect(new_database(demo_template()))
        cls.addClassCleanup(cls.owner.close)
        # Guards and foreign keys are tested elsewhere: here a row is what its own checks say.
        cls.owner.execute("SET session_replication_role = replica")
        for table, seed in SEEDS.items():
            row = cls.owner.execute(f"SELECT 1 FROM {table} LIMIT 1").fetchone()  # type: ignore[arg-type]  # noqa: S608
            if row is None:
                cls.owner.execute(seed)  # type: ignore[arg-type]

    def refused(self, table: str, change: str, before: str = "") -> str:
        """The check that refuses a change of one row; "" where it passes. `before` makes the row sound first."""
        where = f"ctid = (SELECT ctid FROM {table} ORDER BY {WHICH.get(table, 'ctid')} LIMIT 1)"  # noqa: S608
        try:
            with self.owner.transaction(force_rollback=True):
                if before:
                    self.owner.execute(f"UPDATE {table} SET {before} WHERE {where}")  # type: ignore[arg-type]  # noqa: S608
                    where = "id = (SELECT id FROM mite_count ORDER BY xmin::text::bigint DESC LIMIT 1)"
                self.owner.execute(f"UPDATE {table} SET {change} WHERE {where}")  # type: ignore[arg-type]  # noqa: S608
        except errors.CheckViolation as error:
            return error.diag.constraint_name or ""
        return ""

    def test_each_refuses_what_it_is_there_for(self) -> None:
        """One change, one check: the one that is meant, by its name."""
        for table, rows in REFUSED.items():
            for change, check in rows:
                with self.subTest(table=table, change=change[:60]):
                    self.assertEqual(self.refused(table, change), check)

    def test_a_count_is_of_its_method(self) -> None:
        """A wash has bees and shakes, a board its days and squares, drone brood its cells, a look only its answer."""
        for kind, change, check in COUNTS:
            with self.subTest(kind=kind, change=change[:60]):
                self.assertEqual(self.refused("mite_count", change, KINDS[kind]), check)

    def test_each_kind_of_count_is_sound_as_it_is(self) -> None:
        """What the rows above start from passes: else they would prove nothing."""
        for kind, columns in KINDS.items():
            with self.subTest(kind=kind):
                self.assertEqual(self.refused("mite_count", columns), "")

    def test_no_check_is_forgotten(self) -> None:
        """Every check of the database's own catalogue stands in the tables above."""
        rows = self.owner.execute(
            "SELECT conname FROM pg_constraint WHERE contype = 'c' AND connamespace = 'public'::regnamespace "
            "AND conrelid::regclass::text NOT LIKE 'procras%' AND conrelid <> 0"
        ).fetchall()
        tested = {check for rows in REFUSED.values() for _, check in rows} | {check for _, _, check in COUNTS}
        self.assertEqual({str(name) for (name,) in rows} - tested, set())


WHICH = {"colony_status": "until IS NULL DESC", "frame": "box_id IS NULL", "queen": "ctid", "hive_box": "frames DESC", "course": "ctid",
         "count_reading": "scale = 'mites_per_100' DESC", "course_step": "earliest = ideal DESC"}  # fmt: skip
"""Which row of a table is changed, where not any will do."""
