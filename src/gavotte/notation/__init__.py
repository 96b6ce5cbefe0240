"""Notation: what is written for a solo (values, ties, tuplets, beams, accidentals), worked out from its notes.

Engraving and the score formats both write from here.
"""
