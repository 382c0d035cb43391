"""What leaves and enters in open formats."""
