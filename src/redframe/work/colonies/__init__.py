"""Colonies with their hives, queens, frames, holds and lineage."""
