"""The Practice desk."""
