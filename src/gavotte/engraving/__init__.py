"""Engraving: the notation of a solo as plain shapes keyed by note.

``mei`` writes one line in MEI; ``engraver`` has verovio set the line and returns its shapes. Nothing here knows a
screen.
"""
