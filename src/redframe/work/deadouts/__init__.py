"""Use cases of dead colonies: the examination, what was excluded, where combs go, winters."""
