"""Practice: what was to be played and how it went."""
