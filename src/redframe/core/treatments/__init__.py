"""Treatments: the catalogue, whether an option suits a colony now, the dated course, the mixture, the check count."""
