"""What is a player's own: figures of sets of solos, and what sets one set apart from another."""
