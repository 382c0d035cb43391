"""The tests. `./redframe test` runs them all; `./redframe test WORD` those whose name has the word."""
