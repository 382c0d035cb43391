"""The launcher behind `./redframe`: installs what is missing, runs the database and the server, wraps the checks."""
