"""The chord-and-scale line: each chord with its scale from the root up, chord tones told from the rest."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

from gavotte.labelling.chords_in_force import ChordSpan
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.tensions import ALTERED_TENSIONS, is_tension
from gavotte.solo.document import ChordEvent, Function, Note, Solo, Text
from gavotte.solo.label import Label
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.degrees import shown_degree
from gavotte.theory.meter import COMMON_TIME
from gavotte.theory.pitch import Pitch, PitchError, respelled, spell
from gavotte.theory.scale import Scale

_EIGHTH, _BAR = Fraction(1, 2), Fraction(4)
_MOST_NOTES = 8
_MIDDLE = {"F4": 44}
_TREBLE_MIDDLE = 60
"""The lowest root of a scale, by the clef it is read in."""


def scale_line(found: Labelled, start: Fraction, end: Fraction) -> tuple[Solo, tuple[Label, ...]]:
    """The chords in force from ``start`` to ``end`` (quarter notes), each once, a bar of eighths for each.

    Raises ValueError where there is none.
    """
    solo, notes, chords, texts, labels = found.solo, [], [], [], []
    clef = solo.instrument.chosen_clef or solo.instrument.clef
    for number, span in enumerate(_spans(found, start, end)):
        onset = number * _BAR
        chords.append(ChordEvent(f"c{number}", onset, write_chord_symbol(span.chord)))
        texts.append(Text(onset, span.scale.name))
        for step, pitch in enumerate(_pitches(span, _MIDDLE.get(clef, _TREBLE_MIDDLE))):
            note = Note(f"{number}:{step}", onset + step * _EIGHTH, _EIGHTH, pitch)
            notes.append(note)
            labels.append(_label(found, span, note))
    if not chords:
        raise ValueError("There are no chords in these bars.")
    keys = (replace(solo.keys[0], onset=Fraction(0)),)
    line = Solo(
        title=solo.title,
        instrument=solo.instrument,
        keys=keys,
        heard_keys=keys,
        meters=(replace(solo.meters[0], onset=Fraction(0), meter=COMMON_TIME),),
        chords=tuple(chords),
        texts=tuple(texts),
        notes=tuple(notes),
        form_end=_BAR * len(chords),
        school=solo.school,
    )
    return line, tuple(labels)


def _spans(found: Labelled, start: Fraction, end: Fraction) -> Iterator[ChordSpan]:
    """The chords in force between two times, none of them twice with the same scale."""
    seen = set()
    spans = found.frame.spans
    for span, following in zip(spans, [*(later.onset for later in spans[1:]), end], strict=True):
        known = (span.chord, span.scale)
        if span.written and span.onset < end and following > start and known not in seen:
            seen.add(known)
            yield span


def _pitches(span: ChordSpan, lowest: int) -> Iterator[Pitch]:
    """The scale from the chord's root up, with the octave where there is room for it."""
    root = span.chord.root.pitch_class
    first = lowest + (root - lowest) % 12
    classes = sorted((pitch_class - root) % 12 for pitch_class in span.scale.pitch_classes | {root})
    steps = classes if len(classes) >= _MOST_NOTES else [*classes, 12]
    for step in steps[:_MOST_NOTES]:
        yield _spelled(span, first + step)


def _spelled(span: ChordSpan, midi: int) -> Pitch:
    """A pitch by the name its degree has over the chord, unless that is an awkward one."""
    try:
        name = span.chord.name_of(span.chord.degree_of(midi % 12))
    except (KeyError, PitchError):
        return spell(midi, span.key.key.fifths)
    plain = spell(midi, span.chord.root.fifths)
    return plain if abs(name.alter) > 1 else respelled(plain, name)


def _label(found: Labelled, span: ChordSpan, note: Note) -> Label:
    chord, pitch_class = span.chord, note.pitch.pitch_class
    degree = chord.degree_of(pitch_class)
    function, device = _function(span, degree, pitch_class, span.scale)
    tension = 0.0 if function is Function.CHORD else _pull(span, pitch_class)
    return Label(
        note.id,
        function,
        device,
        degree,
        write_chord_symbol(chord),
        span.scale.name,
        tension=tension,
        shown=shown_degree(degree, found.frame.school.naming),
    )


def _function(span: ChordSpan, degree: str, pitch_class: int, scale: Scale) -> tuple[Function, str]:
    if pitch_class in span.tones:
        return Function.CHORD, "plain"
    if is_tension(span.chord, degree, scale):
        return Function.EXTENSION, "altered" if degree in ALTERED_TENSIONS else "natural"
    return Function.PASSING, "passing"


def _pull(span: ChordSpan, pitch_class: int) -> float:
    """How far a colour stands above the ground: a semitone from a chord tone pulls more than a whole tone."""
    nearest = min(min((pitch_class - tone) % 12, (tone - pitch_class) % 12) for tone in span.tones)
    return 0.4 if nearest == 1 else 0.2
