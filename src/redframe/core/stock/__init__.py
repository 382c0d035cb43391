"""Products in stock: their lots, what is left of them, and what planned courses still need."""
