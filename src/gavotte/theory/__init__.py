"""Music theory: spelled pitches, intervals, keys, meters, scales and chords. Pure values, no notes of any solo."""
