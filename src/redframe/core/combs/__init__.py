"""Cells and combs as they look, drawn in millimetres from ellipses, polygons and lines."""
