"""Vocabulary: licks taken from solos, with their harmony, labels, source and functional name."""
