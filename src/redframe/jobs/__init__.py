"""What is done in the background: tasks on a queue that lives in the database, and the worker that does them."""
