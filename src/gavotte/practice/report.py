"""A take in words: what went well, what did not, and the one thing to work on next."""

from __future__ import annotations

import statistics
from collections.abc import Sequence

from gavotte.phrasing.telling import counted, listed
from gavotte.practice.as_played import labels_as_played
from gavotte.practice.due import DueLine
from gavotte.practice.focus import Trouble, is_sure, loop_of, work_next
from gavotte.practice.take import Take, TakeNote, Verdict
from gavotte.practice.timing import SwungPair, Timing, timing_of
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note
from gavotte.solo.label import Label
from gavotte.solo.note_labels import NoteLabels
from gavotte.theory.degrees import shown_degree
from gavotte.theory.pitch import spell
from gavotte.workshop.piece import labelled_once

_MOST = 12
_EARLY = 0.015
"""Seconds from which on early and late are worth a word."""

_DRIFTED, _EVEN, _LIKE = 0.02, 0.02, 0.35
_SHORT, _LONG = 0.55, 0.97
_APART, _UNEQUAL = 0.02, 0.5
"""Seconds by which phrases, and ratios by which swung pairs differ so that it is told."""


def is_like(take: Take) -> bool:
    """Whether what was heard is like what is written at all."""
    return take.sure >= _LIKE


def told_of(line: DueLine, take: Take) -> list[tuple[str, str]]:
    """The whole report as headings and words: the notes, their time, each mistake with its place, what comes next."""
    if not is_like(take):
        return [
            (
                "Notes",
                "Little of what was heard is like what is written. Was another piece played, or is the line too quiet "
                "beside the rest?",
            )
        ]
    timing = timing_of(line, take)
    return [
        ("Notes", summary(line, take)),
        ("Time", " ".join(timing_lines(line, take, timing))),
        *(("Intonation", words) for words in intonation_lines(line, timing)),
        *mistakes(line, take),
        ("Next", next_words(line, take)),
    ]


def summary(line: DueLine, take: Take) -> str:
    """How many notes were right, wrong, missed and added, in one sentence."""
    right, wrong, missed = (take.count(verdict) for verdict in (Verdict.RIGHT, Verdict.WRONG, Verdict.MISSED))
    words = f"{right} of {counted(len(line.notes), 'note')} right"
    others = [
        f"{number} {name}"
        for number, name in ((wrong, "wrong"), (missed, "missed"), (len(take.added), "added"))
        if number
    ]
    shaky = sum(not is_sure(note) for note in take.notes)
    doubt = f"; {counted(shaky, 'note')} could not be heard for sure" if shaky else ""
    return f"{', '.join((words, *others))}{doubt}."


def timing_lines(line: DueLine, take: Take, timing: Timing) -> list[str]:
    """Tempo, evenness, early and late by place, and swing."""
    beat = float(line.solo.meters[0].meter.beats[0].length)
    tempo = f"Tempo {take.tempo / beat:.0f}"
    if abs(take.drift) >= _DRIFTED:
        tempo += f", {'rising' if take.drift > 0 else 'falling'} by {abs(take.drift):.0%}"
    lines = [f"{tempo}."]
    if timing.spread:
        lines.append(f"Two thirds of the notes lie within {1000 * timing.spread:.0f} ms of where they belong.")
    off = [place for place in timing.places if abs(place.late) >= _EARLY]
    if off:
        said = [
            f"{place.name} {1000 * abs(place.late):.0f} ms {'late' if place.late > 0 else 'early'}" for place in off
        ]
        lines.append(f"In the middle: {listed(said)}.")
    apart = sorted(timing.phrases, key=lambda phrase: phrase.late)
    if len(apart) > 1 and apart[-1].late - apart[0].late >= _APART:
        said = [f"{_late_words(phrase.late)} in {phrase.name}" for phrase in (apart[0], apart[-1])]
        lines.append(f"By phrase: from {said[0]} to {said[1]}.")
    if timing.pairs:
        ratios = [pair.ratio for pair in timing.pairs]
        lines.append(
            f"The first of two eighths is {statistics.median(ratios):.1f} times as long as the second "
            f"({counted(len(ratios), 'pair')})."
        )
        groups = _in_groups(timing.pairs)
        least, most = (choose(groups, default=(0.0, ""), key=lambda group: group[0]) for choose in (min, max))
        if most[0] - least[0] >= _UNEQUAL:
            lines.append(f"It goes from {least[0]:.1f} in {least[1]} to {most[0]:.1f} in {most[1]}.")
    if timing.lengths is not None and not _SHORT <= timing.lengths <= _LONG:
        lines.append("The notes are short." if timing.lengths < _SHORT else "The notes are joined throughout.")
    if timing.cut:
        notes, grid = {note.id: note for note in line.notes}, BarGrid(line.solo)
        said = [f"{notes[note].pitch.name.shown} in {grid.place(notes[note].onset)}" for note, _ in timing.cut]
        lines.append(f"Long notes that end too soon: {listed(said)}.")
    return lines


def _in_groups(pairs: Sequence[SwungPair]) -> list[tuple[float, str]]:
    """The middle ratio of every few pairs that follow each other, with their bars: one onset heard badly makes no
    swing.
    """
    starts = range(0, len(pairs) - _SEVERAL + 1, _SEVERAL)
    groups = [pairs[start : start + _SEVERAL] for start in starts]
    return [
        (
            statistics.median(pair.ratio for pair in group),
            f"bar {group[0].bar}" if group[0].bar == group[-1].bar else f"bars {group[0].bar}–{group[-1].bar}",
        )
        for group in groups
    ]


_SEVERAL = 3
"""So many pairs of eighths tell together how swung they are."""


def _late_words(late: float) -> str:
    """How early or late something is: "12 ms early"."""
    if abs(late) < 0.0005:
        return "on time"
    return f"{1000 * abs(late):.0f} ms {'late' if late > 0 else 'early'}"


def intonation_lines(line: DueLine, timing: Timing) -> list[str]:
    """How near to their pitches the notes lay, and which were farthest off; nothing where few were heard."""
    if timing.cents is None:
        return []
    notes, grid = {note.id: note for note in line.notes}, BarGrid(line.solo)
    off = [
        f"{notes[note].pitch.shown} in {grid.place(notes[note].onset)} ({abs(by):.0f} {'sharp' if by > 0 else 'flat'})"
        for note, by in timing.off
    ]
    words = f"Two thirds of the notes lie within {timing.cents:.0f} cents of their pitch."
    return [f"{words} Farthest off: {listed(off)}." if off else words]


def mistakes(line: DueLine, take: Take) -> list[tuple[str, str]]:
    """Each wrong or missed note: its place, and what it would have been and what was heard instead."""
    heard = labels_as_played(line, take)
    labels = NoteLabels(labelled_once(line.solo).labels)
    grid = BarGrid(line.solo)
    lines = []
    for note, judged in zip(line.notes, take.notes, strict=True):
        if judged.verdict is not Verdict.RIGHT and is_sure(judged):
            words = mistake_words(note, judged, labels.get(note.id), heard.get(note.id))
            lines.append((sentence_start(grid.place(note.onset)), f"{words}."))
    return lines if len(lines) <= _MOST else [*lines[:_MOST], ("", f"And {len(lines) - _MOST} more.")]


def mistake_words(note: Note, judged: TakeNote, written: Label | None, heard: Label | None) -> str:
    """What became of a note: "G in place of A♭ (the 13 in place of the ♭9)"."""
    name = note.pitch.name.shown
    degree = f" (the {shown_degree(written.degree)})" if written is not None and written.degree else ""
    if judged.heard is None:
        return f"{name}{degree} was not heard"
    played = spell(judged.heard, 0).name.shown
    if written is None or heard is None or not (written.degree and heard.degree):
        return f"{played} in place of {name}"
    return (
        f"{played} in place of {name} (the {shown_degree(heard.degree)} in place of the {shown_degree(written.degree)})"
    )


def next_words(line: DueLine, take: Take) -> str:
    """The one thing to work on next, with where it stands."""
    trouble = work_next(line, take)
    if trouble is None:
        return "Nothing stands out. Play it faster, in another key, or from memory."
    start, end = loop_of(line, trouble)
    grid = BarGrid(line.solo)
    first, last = (
        grid.bars[grid.index_at(start)].number,
        grid.bars[grid.index_at(end) - (grid.locate(end)[1] == 0)].number,
    )
    where = f"bar {first}" if first >= last else f"bars {first} to {last}"
    return f"Next: loop {where} ({trouble_words(trouble)})."


def trouble_words(trouble: Trouble) -> str:
    """What went wrong in a phrase."""
    parts = [
        f"{number} {name}"
        for number, name in (
            (trouble.wrong, "wrong"),
            (trouble.missed, "missed"),
            (trouble.early, "early"),
            (trouble.late, "late"),
        )
        if number
    ]
    return listed(parts) if parts else "all right"


def sentence_start(words: str) -> str:
    """Words at the beginning of a sentence."""
    return words[:1].upper() + words[1:]
