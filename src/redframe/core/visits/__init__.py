"""The visit: what is recorded frame by frame, and what follows from it."""
