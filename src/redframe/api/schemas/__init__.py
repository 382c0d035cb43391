"""What goes over the wire, a module a topic. Inputs refuse unknown fields; outputs are read from the work's records."""
