"""Checks: what is wrong with a solo, said so that it can be put right."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.theory.chord import UnreadChord


@dataclass(frozen=True, slots=True)
class Finding:
    """Something worth a look: where (quarter notes), what, and what to do."""

    onset: Fraction
    message: str


def check(solo: Solo) -> tuple[Finding, ...]:
    """Everything that looks wrong in a solo, by onset: overlaps, doubled ids, missing chords, odd bars."""
    grid = BarGrid(solo)
    findings: list[Finding] = []
    seen: set[str] = set()
    for note in solo.notes:
        if note.id in seen:
            findings.append(Finding(note.onset, f"Two notes share the name {note.id!r}."))
        seen.add(note.id)
    sounding = [note for note in solo.notes if not note.grace]
    for note, following in itertools.pairwise(sounding):
        if note.end > following.onset:
            findings.append(
                Finding(
                    following.onset,
                    f"{following.pitch.shown} in {grid.place(following.onset)} starts while "
                    f"{note.pitch.shown} still sounds; a solo line has one note at a time.",
                )
            )
    if solo.notes and not solo.chords:
        findings.append(
            Finding(solo.notes[0].onset, "There are no chord symbols; notes are named by their degree in the key.")
        )
    for event, after in itertools.pairwise(solo.chords):
        if event.onset == after.onset:
            words = f"Two chords stand in {grid.place(event.onset)}: {event.text} and {after.text}. The second counts;"
            findings.append(Finding(event.onset, f"{words} take one away."))
    unread = [event for event in solo.chords if isinstance(event.symbol, UnreadChord)]
    findings += [
        Finding(
            event.onset,
            f"The chord symbol “{event.text}” in {grid.place(event.onset)} can't be read; the notes under it are named "
            "by the key. Write it anew.",
        )
        for event in unread
    ]
    findings += [
        Finding(bar.onset, f"Bar {bar.number} is {bar.length} quarter notes long, not {bar.meter.bar_length}.")
        for bar in grid.bars
        if bar.number and bar.length != bar.meter.bar_length
    ]
    return tuple(sorted(findings, key=lambda finding: finding.onset))
