"""Gavotte: the function of every note of a transcribed solo, and the vocabulary that comes out of it."""

__version__ = "0.1.0"
