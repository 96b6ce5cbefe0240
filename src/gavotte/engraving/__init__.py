"""Engraving: a solo as written notation, and the notation as plain shapes keyed by note.

``notation`` derives what is written (note values, ties, tuplets, beams, accidentals); ``mei`` writes one line
of it in MEI; ``engraver`` has verovio set the line and returns its shapes. Nothing here knows a screen.
"""
