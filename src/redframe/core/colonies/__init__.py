"""The colony: its queen and her mark, its strength, its lineage."""
