"""The real interface in headless Chromium, used as a person would."""
