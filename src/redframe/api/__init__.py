"""The web interface: routers and schemas, sign-in, errors. No rules and no SQL."""
