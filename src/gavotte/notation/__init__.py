"""Notation: what is written for a solo (values, ties, tuplets, beams, accidentals), derived from its onsets and lengths.

Engraving and the score formats both write from here.
"""
