"""Dead colonies: what was found, what fits, when it happened, what its record says, and where its combs go."""
