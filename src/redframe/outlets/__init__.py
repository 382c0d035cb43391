"""What leaves and enters in open formats: pictures, printable sheets."""
