"""Overviews of a labelled solo: its skeleton, what falls on the chord changes, and its figures."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from fractions import Fraction

from gavotte.labelling.frame import FramedNote
from gavotte.labelling.labeller import Labelled
from gavotte.solo.bars import Bar
from gavotte.solo.document import Note
from gavotte.solo.label import Label
from gavotte.theory.degrees import shown_degree


def skeleton(found: Labelled) -> tuple[str, ...]:
    """The ids of the notes that sound on strong beats: what is left of the line when its ornament is taken away.

    A note counts that begins on a strong beat or comes early and is held over it.
    """
    grid = found.frame.grid
    strong: dict[int, list[float]] = {}
    kept = []
    for note in found.frame.notes:
        if note.note.grace:
            continue
        is_kept = note.strong
        if not is_kept:
            index = grid.index_at(note.note.onset)
            if index not in strong:
                strong[index] = _strong_places(grid.bars[index])
            is_kept = _sounds_over(note.note, strong[index])
        if is_kept:
            kept.append(note.note.id)
    return tuple(kept)


_A_MOMENT = 1e-6
"""Quarter notes: what binary fractions, which are quick, may lose."""


def _strong_places(bar: Bar) -> list[float]:
    """Where the strong beats of a bar are, and the first of the bar behind it."""
    start = float(bar.onset - bar.lead_in)
    strong = [beat.offset for beat in bar.meter.beats if beat.strong]
    return [start + float(offset) for offset in (*strong, bar.meter.bar_length)]


def _sounds_over(note: Note, places: Sequence[float]) -> bool:
    """Whether a note begins before one of some places, in order, and is still sounding there."""
    onset = note.onset.numerator / note.onset.denominator
    end = onset + note.duration.numerator / note.duration.denominator
    following = bisect_right(places, onset + _A_MOMENT)
    return following < len(places) and places[following] < end - _A_MOMENT


@dataclass(frozen=True, slots=True)
class Landing:
    """What falls on a chord change: the note there (or just before or after it) and what leads to it.

    ``note`` and ``before`` are note ids; degrees are against the chord each note is heard in, as they are shown.
    ``move`` is the way from the one to the other in semitones.
    """

    onset: Fraction
    place: str
    old: str
    new: str
    note: str | None
    degree: str
    label: Label | None
    before: str | None
    degree_before: str
    move: int | None


def landings(found: Labelled) -> tuple[Landing, ...]:
    """One row for each chord change under the line, in order."""
    return tuple(_landings(found))


def _landings(found: Labelled) -> Iterator[Landing]:
    frame = found.frame
    notes = [note for note in frame.notes if not note.note.grace]
    if not notes:
        return
    onsets = [float(note.note.onset) for note in notes]
    last_end = notes[-1].note.end
    for index in range(1, len(frame.spans)):
        span, old = frame.spans[index], frame.spans[index - 1]
        if not notes[0].note.onset <= span.onset <= last_end:
            continue
        place = frame.grid.place(span.onset)
        k = _falls_on(notes, onsets, span.onset)
        if k is None:
            yield Landing(span.onset, place, old.text, span.text, None, "", None, None, "", None)
            continue
        on, before = notes[k], notes[k - 1] if k else None
        label = found.labels[on.index]
        held_over = on.note.onset < span.onset and label.device != "anticipation"
        yield Landing(
            span.onset,
            place,
            old.text,
            span.text,
            on.note.id,
            _shown(found, span.chord.degree_of(on.pitch % 12)) if held_over else label.shown_degree,
            label,
            None if before is None else before.note.id,
            "" if before is None else found.labels[before.index].shown_degree,
            None if before is None else on.pitch - before.pitch,
        )


def _falls_on(notes: list[FramedNote], onsets: list[float], onset: Fraction) -> int | None:
    """The place of the note that begins or sounds at a time, else of the first within a beat after it."""
    k = bisect_right(onsets, float(onset)) - 1
    if k >= 0 and notes[k].note.onset <= onset < notes[k].note.end:
        return k
    following = k + 1
    soon = following < len(notes) and notes[following].note.onset - onset < 1
    return following if soon else None


def _shown(found: Labelled, degree: str) -> str:
    return shown_degree(degree, found.frame.school.naming)


@dataclass(frozen=True, slots=True)
class Group:
    """The notes of one figure (ids), its kind by name, the chord it spells ("" for none), and where it leads."""

    notes: tuple[str, ...]
    kind: str
    spells: str
    target: str | None


def groups(found: Labelled) -> dict[str, Group]:
    """The figures of a solo by what their notes' labels call them."""
    members: dict[str, list[Label]] = {}
    for label in found.labels:
        if label.group is not None:
            members.setdefault(label.group, []).append(label)
    return {called: _group(labels) for called, labels in members.items()}


def _group(labels: list[Label]) -> Group:
    target = next((label.target for label in labels if label.target is not None), None)
    implied = next((label.implied for label in labels if label.implied), None)
    return Group(tuple(label.note for label in labels), labels[0].figure, implied or "", target)
