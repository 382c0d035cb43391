"""The calendar of a place: its phases, and how fast mites multiply in each."""
