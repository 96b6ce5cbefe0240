"""What a solo can be at all. Whatever comes from outside (documents, scores, passages, archives) is held to it here."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from fractions import Fraction

from gavotte.solo.document import ChordEvent, KeyRegion, Note, Solo

MAX_NOTES = 50_000
MAX_BARS = 20_000
MAX_TIME = 100_000
"""Quarter notes: some hours of music."""
MAX_LENGTH = 4_096
"""Quarter notes a note or a bar may last."""
MAX_PARTS = 1_000_000
"""The finest division of a quarter note."""
MAX_OCTAVE = 20
MAX_TEMPO = 2_000
"""Quarter notes a minute."""
MAX_WORDS = 20_000
"""Characters of any text."""
MAX_STEPS = 48
"""Semitones (and scale steps) a bend or a transposition goes."""


class BoundsError(ValueError):
    """A solo holds something no solo can; the message says what and where."""


def within_bounds(solo: Solo) -> Solo:
    """The same solo, once it is certain that everything in it is possible. Raises BoundsError."""
    _check_counts(solo)
    for where, words in _words(solo):
        _check_words(where, words)
    for where, time in _times(solo):
        _check_time(where, time)
    for where, length, may_be_none in _lengths(solo):
        above, below = length.numerator, length.denominator
        if above < 0 or (not above and not may_be_none) or above > MAX_LENGTH * below or below > MAX_PARTS:
            raise BoundsError(f"{where} lasts {_shown(length)} quarter notes")
    _check_regions(solo)
    _check_tempo(solo)
    _check_notes(solo.notes)
    for name, items in (("chord symbols", solo.chords), ("texts", solo.texts), ("sections", solo.sections)):
        onsets = [item.onset for item in items]
        if onsets != sorted(onsets):
            raise BoundsError(f"the {name} are not in the order of time")
    _check_instrument(solo)
    return solo


def _check_counts(solo: Solo) -> None:
    for name in ("notes", "chords", "meters", "keys", "odd_bars", "sections", "phrases", "decisions", "tempo_changes",
                 "texts", "heard_keys", "readings", "dismissed", "passed", "remarks", "phrase_starts", "phrase_words",
                 "reductions", "tags"):  # fmt: skip
        if len(getattr(solo, name)) > MAX_NOTES:
            raise BoundsError(f"there are {len(getattr(solo, name))} {name.replace('_', ' ')}")
    if not solo.meters or not solo.keys:
        raise BoundsError(f"there is no {'key' if solo.meters else 'meter'}")


def _words(solo: Solo) -> Iterator[tuple[str, str]]:
    yield from (("the title", solo.title), ("the player", solo.player), ("the style", solo.style))
    yield from (("the album", solo.album), ("the source", solo.source), ("the instrument", solo.instrument.name))
    yield from (("a tag", tag) for tag in solo.tags)
    yield from ((f"chord {event.id}", event.text) for event in _chords(solo))
    for note in solo.notes:
        yield f"note {note.id!r}", note.id
        yield f"the finger of note {note.id}", note.finger
    yield from (("a section", section.label) for section in solo.sections)
    yield from (("a text", text.words) for text in solo.texts)
    yield from (("a remark", remark.words) for remark in solo.remarks)
    yield from (("what a phrase does", words.words) for words in solo.phrase_words)


def _check_words(where: str, words: str) -> None:
    if len(words) > MAX_WORDS:
        raise BoundsError(f"{where} is {len(words)} characters long")
    try:
        words.encode("utf-8")
    except UnicodeEncodeError:
        raise BoundsError(f"{where} holds signs that are no text") from None


def _chords(solo: Solo) -> Iterator[ChordEvent]:
    yield from solo.chords
    for reading in solo.readings:
        yield from reading.chords


def _times(solo: Solo) -> Iterator[tuple[str, Fraction]]:
    yield from ((f"note {note.id}", note.onset) for note in solo.notes)
    yield from ((f"chord {event.id}", event.onset) for event in _chords(solo))
    groups: tuple[tuple[str, Iterable[object]], ...] = (
        ("a meter", solo.meters), ("a key", solo.keys), ("a heard key", solo.heard_keys), ("a section", solo.sections),
        ("a text", solo.texts), ("a tempo", solo.tempo_changes), ("a remark", solo.remarks), ("a bar", solo.odd_bars),
    )  # fmt: skip
    for name, items in groups:
        yield from ((name, item.onset) for item in items)  # type: ignore[attr-defined]
    yield from (("the end of the form", solo.form_end), ("the length of a chorus", solo.chorus))


def _check_time(where: str, time: Fraction) -> None:
    above, below = time.numerator, time.denominator
    if not -MAX_LENGTH * below <= above <= MAX_TIME * below:
        raise BoundsError(f"{where} stands at quarter note {_shown(time)}")
    if below > MAX_PARTS:
        raise BoundsError(f"{where} stands at a time finer than any rhythm")


def _lengths(solo: Solo) -> Iterator[tuple[str, Fraction, bool]]:
    """Lengths with what they are of, and whether each may be none."""
    for note in solo.notes:
        yield f"note {note.id}", note.duration, note.grace
        for part in note.written:
            yield f"a written part of note {note.id}", part, True
    yield from (("a bar", bar.length, False) for bar in solo.odd_bars)
    yield "the pickup", solo.pickup, True


def _check_regions(solo: Solo) -> None:
    named: tuple[tuple[str, tuple[object, ...]], ...] = (("meters", solo.meters), ("keys", solo.keys))
    for name, regions in named:
        onsets: list[Fraction] = [region.onset for region in regions]  # type: ignore[attr-defined]
        if onsets != sorted(set(onsets)):
            raise BoundsError(f"the {name} are not in the order of time")
    if solo.meters[0].onset > 0:
        raise BoundsError("the first bars have no meter")
    end = max(solo.end, solo.form_end, *(event.onset for event in solo.chords[-1:]), Fraction(0))
    bars = Fraction(len(solo.odd_bars))
    ends = [region.onset for region in solo.meters[1:]] + [end]
    for region, stop in zip(solo.meters, ends, strict=True):
        bars += max(Fraction(0), min(stop, end) - region.onset) / region.meter.bar_length
    if bars > MAX_BARS:
        raise BoundsError(f"there are {int(bars)} bars")
    for key in (*solo.keys, *solo.heard_keys):
        _check_key(key)


def _check_key(region: KeyRegion) -> None:
    if abs(region.key.fifths) > 14:
        raise BoundsError(f"{region.key} is no key anybody writes")


def _check_tempo(solo: Solo) -> None:
    tempos = [change.tempo for change in solo.tempo_changes] + ([solo.tempo] if solo.tempo is not None else [])
    for tempo in tempos:
        if not 1 <= tempo <= MAX_TEMPO or tempo.denominator > MAX_PARTS:
            raise BoundsError(f"the tempo is {_shown(tempo)} quarter notes a minute")
    if solo.swing is not None and not Fraction(1, 8) <= solo.swing <= 8:
        raise BoundsError(f"the swing is {_shown(solo.swing)} to 1")
    if solo.year is not None and not 0 <= solo.year <= 9999:
        raise BoundsError(f"the year is {solo.year}")


def _check_notes(notes: tuple[Note, ...]) -> None:
    seen: set[str] = set()
    before = None
    for note in notes:
        if note.id in seen:
            raise BoundsError(f"two notes are called {note.id!r}")
        seen.add(note.id)
        if before is not None and _is_earlier(note.onset, before.onset):
            raise BoundsError(f"note {note.id} stands after a note that comes later")
        # A little beyond what sounds is let pass: nobody's library shall be refused for a note that is too high.
        if not -MAX_OCTAVE <= note.pitch.octave <= MAX_OCTAVE:
            raise BoundsError(f"note {note.id} is higher or lower than anything that sounds")
        for mark in note.marks:
            if mark.semitones is not None and not 0 <= abs(mark.semitones) <= MAX_STEPS:
                raise BoundsError(f"note {note.id} is bent by {_shown(mark.semitones)} semitones")
        if note.tuplet is not None and not (0 < note.tuplet.actual <= 128 and 0 < note.tuplet.normal <= 128):
            raise BoundsError(f"note {note.id} is in a tuplet of {note.tuplet.actual} to {note.tuplet.normal}")
        before = note


def _is_earlier(time: Fraction, other: Fraction) -> bool:
    return time.numerator * other.denominator < other.numerator * time.denominator


def _check_instrument(solo: Solo) -> None:
    instrument = solo.instrument
    if max(abs(instrument.transposition_steps), abs(instrument.transposition_semitones)) > MAX_STEPS:
        raise BoundsError(f"the {instrument.name} transposes by {instrument.transposition_semitones} semitones")
    if not 0 <= instrument.lowest <= instrument.highest <= 127:
        raise BoundsError(f"the range of the {instrument.name} is impossible")


def _shown(number: Fraction) -> str:
    """A number as it is read, however long it is written."""
    try:
        return f"{float(number):g}"
    except OverflowError:
        return "more than can be written"
