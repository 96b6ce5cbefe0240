"""The user's library on disk: solos and licks in one SQLite database, with migrations and backups."""
