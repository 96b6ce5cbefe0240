"""Harmony: what the chords of a solo do. Heard keys, roman numerals, what a progression is called, chords inferred.

``ground`` holds what is worked out of a solo's harmony once; ``changes`` lists the chords with the time they
last, ``keys`` hears the keys behind them, ``numerals`` names a chord in a key, ``progressions`` what they do together
("ii-V to IV", "turnaround").
"""
