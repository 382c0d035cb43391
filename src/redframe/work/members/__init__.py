"""People: sign-in, invitations, roles."""
