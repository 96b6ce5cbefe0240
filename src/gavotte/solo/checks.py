"""Checks: what is wrong with a solo, said so that it can be put right."""

from __future__ import annotations

import itertools
from dataclasses import dataclass
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo


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
            Finding(solo.notes[0].onset, "There are no chord symbols; notes are named against the key's home chord.")
        )
    findings += [
        Finding(bar.onset, f"Bar {bar.number} is {bar.length} quarter notes long, not {bar.meter.bar_length}.")
        for bar in grid.bars
        if bar.number and bar.length != bar.meter.bar_length
    ]
    return tuple(sorted(findings, key=lambda finding: finding.onset))
