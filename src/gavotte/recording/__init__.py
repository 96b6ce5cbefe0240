"""Recordings: decoding, the picture of the sound, slowing down with the pitch kept, the map from beats to seconds."""
