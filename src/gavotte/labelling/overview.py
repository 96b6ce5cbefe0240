"""Overviews of a labelled solo: what falls on the chord changes, and its figures."""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from gavotte.labelling.framed_note import FramedNote
from gavotte.labelling.labeller import Labelled
from gavotte.solo.label import Label
from gavotte.theory.degrees import shown_degree


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
