"""What an association judges and treats by."""
