"""Use cases: load with the store, decide with the core, save with the store; one transaction each."""
