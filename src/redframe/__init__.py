"""Red Frame: counts, thresholds, treatments and their verification, for those who look after bees."""
