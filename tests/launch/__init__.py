"""The launcher as a newcomer uses it."""
