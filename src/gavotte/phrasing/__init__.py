"""Phrases: how a line is divided, what comes back in it, and what is left of it when its ornament is taken away."""
