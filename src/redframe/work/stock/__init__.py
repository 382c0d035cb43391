"""Stock: lots of products, what is left of them, what is lacking, where they went."""
