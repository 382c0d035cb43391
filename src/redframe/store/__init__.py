"""PostgreSQL: migrations, named queries and one thin module a topic. Returns rows as typed records, decides nothing."""
