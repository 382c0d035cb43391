"""Count weeks."""
