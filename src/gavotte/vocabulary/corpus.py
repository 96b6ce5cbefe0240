"""Labelled lines as numbers, and many of them end to end: what is searched and compared.

A line's notes stand in one structured array, an entry for each note but grace notes, so that ten thousand licks are
gone through in a few milliseconds. What has a name (degrees, devices, chords) stands there by its place in a table.
"""

from __future__ import annotations

from bisect import bisect_left, bisect_right
from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import TypeVar

import msgspec
import numpy as np
from numpy.typing import NDArray

from gavotte.giving_way import give_way
from gavotte.harmony.foreignness import chord_quality
from gavotte.harmony.numerals import numeral
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.wording import chord_words
from gavotte.phrasing.collections import collections_of
from gavotte.phrasing.motifs import motifs_of
from gavotte.phrasing.phrases import phrases_of
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Solo
from gavotte.solo.label import DEVICES, Label
from gavotte.theory.chord import DEGREE_SEMITONES
from gavotte.theory.chord_symbol import write_chord_symbol
from gavotte.theory.degrees import shown_degree
from gavotte.theory.pitch import LETTERS
from gavotte.theory.scale import COLLECTIONS
from gavotte.vocabulary.contexts import ContextSpan, context_spans

NameT = TypeVar("NameT", str, tuple[str, str, str])

DEGREES = tuple(DEGREE_SEMITONES)
"""The degrees labels use; a note has its place in it."""
FUNCTIONS = tuple(Function)
DEVICE_NAMES = tuple(device for devices in DEVICES.values() for device in devices)
READINGS = ("changes", "key centre", "implied")
"""What a note can be read against."""
QUALITIES = ("major", "minor", "dominant", "half-diminished", "diminished", "sus")
"""Kinds of chords, as they are asked for."""
_QUALITY_OF = {"half": "half-diminished", "dim": "diminished"}

NOTE = np.dtype(
    [
        ("place", np.int32),
        ("onset", np.float64),
        ("length", np.float32),
        ("number", np.int32),
        ("beat", np.float32),
        ("bar", np.float32),
        ("strong", np.bool_),
        ("pitch", np.int16),
        ("letter", np.int16),
        ("beat_length", np.float32),
        ("degree", np.int8),
        ("function", np.int8),
        ("device", np.int8),
        ("target", np.int32),
        ("figure", np.int32),
        ("chord", np.int16),
        ("quality", np.int8),
        ("root", np.int8),
        ("tonic", np.int8),
        ("context", np.int16),
        ("rest", np.bool_),
        ("begins", np.bool_),
        ("since", np.float32),
        ("tension", np.float32),
        ("foreign", np.bool_),
        ("reading", np.int8),
        ("swing", np.float32),
        ("chorus", np.int16),
        ("form_bar", np.int16),
        ("form_bars", np.int16),
        ("section", np.int16),
        ("collection", np.int8),
        ("recalls", np.bool_),
    ]
)
"""A note: ``place`` is its index in the solo; ``onset`` and ``length`` in quarter notes, ``number`` that of its bar,
``beat`` in beats from the bar's first, ``bar`` the length of its bar in quarter notes; ``beat_length`` that of its
beat; ``pitch`` a MIDI number, ``letter`` its place on the staff in letters;
``target`` the note it leads to, ``figure`` the first note of its figure, both by index in the line or -1; ``chord``
and ``context`` by the line's own tables; ``quality`` and ``root`` -1 where no chord is written; ``rest`` says that a
rest or the end of the line follows, ``begins`` that a phrase begins here; ``since`` is the time since the chord was
reached, in quarter notes; ``tension`` that of the label, ``foreign`` that the note lies outside chord and scale,
``reading`` a place in ``READINGS``; ``swing`` that of the solo, 0 where it is not known. ``chorus`` counts from 1,
``form_bar`` is the bar of the chorus from 0, ``form_bars`` how many it has (0, -1 and 0 where no chorus is set),
``section`` stands in the line's table, -1 outside of all. ``collection`` is what the phrase seems chosen from, a place
in ``COLLECTIONS``, and ``recalls`` says that the note is a part of what was there before; both are found in whole solos
alone, and -1 and false elsewhere.
"""


@dataclass(frozen=True, eq=False)
class LabelledLine:
    """The notes of a labelled line but its grace notes; ``chords`` are (symbol in normal form, in words, numeral),
    ``contexts`` what holds a note, each context with when it begins ("long ii-V-I@16; turnaround@8"), ``sections`` the
    names of the form's parts.
    """

    notes: NDArray[np.void]
    chords: tuple[tuple[str, str, str], ...] = ()
    contexts: tuple[str, ...] = ()
    sections: tuple[str, ...] = ()

    @property
    def pitches(self) -> tuple[int, ...]:
        """The notes as MIDI numbers."""
        return tuple(self.notes["pitch"].tolist())

    def packed(self) -> bytes:
        """The line as bytes, for ``unpacked``."""
        return msgspec.msgpack.encode((self.notes.tobytes(), self.chords, self.contexts, self.sections))

    @staticmethod
    def unpacked(data: bytes) -> LabelledLine:
        """The line of some bytes. Raises ValueError for what is none."""
        try:
            notes, chords, contexts, sections = msgspec.msgpack.decode(data, type=_Packed)
        except msgspec.MsgspecError as error:
            raise ValueError(f"this is no line: {error}") from error
        return LabelledLine(np.frombuffer(notes, dtype=NOTE), chords, contexts, sections)


_Packed = tuple[bytes, tuple[tuple[str, str, str], ...], tuple[str, ...], tuple[str, ...]]


def bars_words(notes: NDArray[np.void], first: int, last: int) -> str:
    """The bars from one note to another: "bars 3–4", "bar 7", "the pickup"."""
    start, end = int(notes["number"][first]), int(notes["number"][last])
    if start == end:
        return f"bar {start}" if start else "the pickup"
    return f"bars {start}–{end}" if start else f"the pickup to bar {end}"


def degrees_words(line: LabelledLine) -> str:
    """The degrees of a line: "3 5 ♭7 ♭9"."""
    codes = line.notes["degree"].tolist()
    return " ".join(shown_degree(DEGREES[code]) if code >= 0 else "?" for code in codes)


def labelled_line(found: Labelled, labels: Sequence[Label] | None = None) -> LabelledLine:
    """The line of a labelled solo; with ``labels`` other than those it has, one for each note."""
    labels = found.labels if labels is None else labels
    solo, frame = found.solo, found.frame
    heads = [i for i, note in enumerate(solo.notes) if not note.grace]
    row_of = {place: row for row, place in enumerate(heads)}
    notes = np.zeros(len(heads), dtype=NOTE)
    figures: dict[str, int] = {}
    chords: dict[tuple[str, str, str], int] = {}
    contexts: dict[str, int] = {}
    spans = context_spans(frame.ground)
    form = _Form(solo, frame.grid)
    starts = [phrase.first for phrase in phrases_of(solo, labels)]
    # Grace notes belong to the note they lead into.
    begins = {heads[k] for start in starts if (k := bisect_left(heads, start)) < len(heads)}
    for row, place in enumerate(heads):
        give_way()
        note, framed, label = solo.notes[place], frame.notes[place], labels[place]
        span = frame.span_of(framed)
        key = frame.ground.key_at(note.onset).key
        bar, offset = frame.grid.locate(note.onset)
        figure = -1 if label.group is None else figures.setdefault(label.group, row)
        quality = chord_quality(span.chord) if span.written else ""
        words = (write_chord_symbol(span.chord) if span.written else "", chord_words(span))
        named = (*words, numeral(span.chord, key) if span.written else "")
        notes[row] = (
            place,
            float(note.onset),
            float(note.duration),
            bar.number,
            float(offset / bar.meter.beat_at(offset)[1].length) if offset >= 0 else 0.0,
            float(bar.meter.bar_length),
            framed.strong,
            framed.pitch,
            LETTERS.index(note.pitch.letter) + 7 * note.pitch.octave,
            float(bar.meter.beat_at(max(offset, Fraction(0)))[1].length),
            DEGREES.index(label.degree) if label.degree in DEGREES else -1,
            FUNCTIONS.index(label.function),
            DEVICE_NAMES.index(label.device),
            row_of.get(solo.places.get(label.target or "", -1), -1),
            figure,
            chords.setdefault(named, len(chords)),
            QUALITIES.index(_QUALITY_OF.get(quality, quality)) if quality else -1,
            span.chord.root.pitch_class if span.written else -1,
            key.tonic.pitch_class,
            contexts.setdefault(_contexts_at(spans, note.onset), len(contexts)),
            framed.rest_after or row == len(heads) - 1,
            place in begins or row == 0,
            max(0.0, float(note.onset - span.onset)),
            label.tension,
            not framed.in_scale and not framed.is_tone and not framed.in_centre,
            READINGS.index("key centre")
            if framed.centre is not None
            else READINGS.index("implied")
            if label.heard
            else 0,
            float(solo.swing or 0),
            *form.at(note.onset),
            -1,
            False,
        )
    return LabelledLine(notes, tuple(chords), tuple(contexts), form.sections)


def line_of_solo(found: Labelled) -> LabelledLine:
    """The line of a whole solo: it also knows what each phrase was chosen from, and what comes back in it."""
    line = labelled_line(found)
    notes = line.notes
    if not len(notes):
        return line
    row_of = {int(place): row for row, place in enumerate(notes["place"])}
    firsts = np.flatnonzero(notes["begins"])
    for first, last in zip(firsts, [*(firsts[1:] - 1), len(notes) - 1], strict=True):
        give_way()
        chosen = collections_of(found, int(notes["place"][first]), int(notes["place"][last]))
        if chosen and last - first + 1 >= _FEW_TO_CHOOSE:
            notes["collection"][first : last + 1] = COLLECTIONS.index(chosen[0].collection)
    for motif in motifs_of(found.solo):
        give_way()
        for instance in motif.instances[1:]:
            notes["recalls"][row_of[instance.first] : row_of[instance.last] + 1] = True
    return line


_FEW_TO_CHOOSE = 4
"""Of fewer notes nobody can say what they were chosen from."""


class _Form:
    """Where in the form a moment lies; ``sections`` are the names of its parts."""

    def __init__(self, solo: Solo, grid: BarGrid) -> None:
        self._solo, self._grid = solo, grid
        self.sections = tuple(dict.fromkeys(section.label for section in solo.sections))
        self._bars = self._bar(solo.chorus) if solo.chorus else 0

    def _bar(self, onset: Fraction) -> int:
        """How many whole bars lie before a moment."""
        return self._grid.at(onset).number - 1

    def at(self, onset: Fraction) -> tuple[int, int, int, int]:
        """Chorus, bar of the chorus, bars of a chorus, and section."""
        sections = self._solo.sections
        before = bisect_right(sections, onset, key=lambda section: section.onset)
        section = self.sections.index(sections[before - 1].label) if before else -1
        if not self._bars:
            return 0, -1, 0, section
        chorus = max(0, onset // self._solo.chorus)
        bar = -1 if onset < 0 else self._bar(onset) - self._bar(chorus * self._solo.chorus)
        return chorus + 1, bar, self._bars, section


def _contexts_at(spans: Sequence[ContextSpan], onset: Fraction) -> str:
    # No context is so long that many begin before it ends.
    near = spans[: bisect_right(spans, onset, key=lambda span: span.onset)][-_NEAR:]
    return "; ".join(f"{span.name}@{span.onset}" for span in near if span.onset <= onset < span.end)


_NEAR = 24


def context_names(contexts: str) -> tuple[str, ...]:
    """The names among the contexts of a note."""
    return tuple(dict.fromkeys(part.partition("@")[0] for part in contexts.split("; ") if part))


class Corpus:
    """Many lines end to end. A note is meant by its row; ``line_of`` and ``firsts`` lead to the lines and back."""

    def __init__(self, lines: Iterable[LabelledLine]) -> None:
        self.lines = tuple(lines)
        sizes = [len(line.notes) for line in self.lines]
        self.firsts: NDArray[np.int64] = np.cumsum([0, *sizes])
        self.line_of: NDArray[np.int64] = np.repeat(np.arange(len(sizes)), sizes)
        self.chords, self.chord = _one_table(self.lines, "chord", lambda line: line.chords)
        """Every chord there is, as in a line, and each note's place among them."""
        self.contexts, self.context = _one_table(self.lines, "context", lambda line: line.contexts)
        self._notes = np.concatenate([*(line.notes for line in self.lines), np.zeros(0, dtype=NOTE)])

    def __len__(self) -> int:
        return len(self._notes)

    def _column(self, name: str) -> NDArray:  # type: ignore[type-arg]
        # What lies side by side is gone through several times as fast.
        return np.ascontiguousarray(self._notes[name])

    @cached_property
    def pitch(self) -> NDArray[np.int16]:
        """MIDI numbers."""
        return self._column("pitch")

    @cached_property
    def degree(self) -> NDArray[np.int8]:
        """Places in ``DEGREES``."""
        return self._column("degree")

    @cached_property
    def function(self) -> NDArray[np.int8]:
        """Places in ``FUNCTIONS``."""
        return self._column("function")

    @cached_property
    def device(self) -> NDArray[np.int8]:
        """Places in ``DEVICE_NAMES``."""
        return self._column("device")

    @cached_property
    def quality(self) -> NDArray[np.int8]:
        """Places in ``QUALITIES``, -1 where no chord is written."""
        return self._column("quality")

    @cached_property
    def onset(self) -> NDArray[np.float64]:
        """Quarter notes from bar 1."""
        return self._column("onset")

    @cached_property
    def length(self) -> NDArray[np.float32]:
        """Quarter notes."""
        return self._column("length")

    @cached_property
    def beat(self) -> NDArray[np.float32]:
        """Beats from the first of the bar."""
        return self._column("beat")

    @cached_property
    def bar(self) -> NDArray[np.float32]:
        """How long each note's bar is, in quarter notes."""
        return self._column("bar")

    @cached_property
    def strong(self) -> NDArray[np.bool_]:
        """Whether a note stands on a strong beat."""
        return self._column("strong")

    @cached_property
    def rest(self) -> NDArray[np.bool_]:
        """Whether a rest or the end of the line follows."""
        return self._column("rest")

    @cached_property
    def begins(self) -> NDArray[np.bool_]:
        """Whether a phrase begins with a note; one begins with each line."""
        return self._column("begins")

    @cached_property
    def place(self) -> NDArray[np.int32]:
        """Indexes in the solos."""
        return self._column("place")

    @cached_property
    def gap(self) -> NDArray[np.float32]:
        """Quarter notes to the next note; the length of the note where a line ends."""
        onset = self.onset
        gap = np.append(np.diff(onset), 0.0).astype(np.float32)
        ends = self.firsts[1:] - 1
        ends = ends[ends >= 0]
        gap[ends] = self.length[ends]
        return gap

    @cached_property
    def target(self) -> NDArray[np.int64]:
        """The row of the note each one leads to, -1 where it leads nowhere."""
        return self._rows("target")

    @cached_property
    def figure(self) -> NDArray[np.int64]:
        """The row of the first note of each note's figure, -1 where it belongs to none."""
        return self._rows("figure")

    def _rows(self, name: str) -> NDArray[np.int64]:
        own = self._column(name).astype(np.int64)
        return np.where(own < 0, -1, own + self.firsts[self.line_of])

    @cached_property
    def figure_end(self) -> NDArray[np.int64]:
        """The row of the last note of each note's figure; its own where it belongs to none."""
        rows = np.arange(len(self))
        heads = np.where(self.figure < 0, rows, self.figure)
        last = np.zeros(len(self), dtype=np.int64)
        np.maximum.at(last, heads, rows)
        return last[heads]

    @cached_property
    def parted(self) -> NDArray[np.int64]:
        """How many rests and ends of lines come before each row, with one entry more: equal where no rest lies
        between.
        """
        return np.concatenate([[0], np.cumsum(self.rest)])


def _one_table(
    lines: Sequence[LabelledLine], column: str, own: Callable[[LabelledLine], tuple[NameT, ...]]
) -> tuple[tuple[NameT, ...], NDArray[np.int32]]:
    """The names of all lines in one table, and where each note's name stands in it."""
    table: dict[NameT, int] = {}
    parts = [np.zeros(0, dtype=np.int32)]
    for line in lines:
        if len(line.notes):
            codes = np.array([table.setdefault(name, len(table)) for name in own(line)], dtype=np.int32)
            parts.append(codes[line.notes[column]])
    return tuple(table), np.concatenate(parts)


def stretch(line: LabelledLine, first: int, last: int) -> LabelledLine:
    """The notes of a line from one row to another; what leads out of them leads nowhere."""
    notes = line.notes[first : last + 1].copy()
    for name in ("target", "figure"):
        inside = (notes[name] >= first) & (notes[name] <= last)
        notes[name] = np.where(inside, notes[name] - first, -1)
    return LabelledLine(notes, line.chords, line.contexts)
