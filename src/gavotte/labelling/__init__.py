"""Labelling: each note's function against the chord under it, how it does it, and why.

``frame`` says what surrounds a note (chord in force, local scale, beat, steps, length). ``figures`` finds
groups of notes that are heard as one (runs, enclosures, double approaches). ``single`` explains a note by
itself, ``decision`` settles between explanations, ``reasons`` puts them into words. Start at
``labeller.label_solo``.
"""
