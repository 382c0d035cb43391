"""The demo scenario: the invented Isle of Corrane and Port Ellery, lived through the application's own use cases."""
