"""Harmony: what the chords of a solo do. Heard keys, roman numerals, what a progression is called, chords inferred.

``changes`` lists the chords with the time they last, ``keys`` hears the keys behind them, ``numerals`` names a chord
in a key, ``progressions`` names what they do together ("ii-V to IV", "turnaround").
"""
