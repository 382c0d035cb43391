"""Disease: what examinations say of a place."""
