"""Choruses: the form played again and again, its changes under each, and a chord moved by a beat."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Solo
from gavotte.writing.placing import fresh_chord_ids

MOST_CHORUSES = 40


def chorus_of_bars(solo: Solo, bars: int) -> Fraction:
    """The length of the solo's first ``bars`` bars, in quarter notes."""
    numbered = [bar for bar in BarGrid(solo).bars if bar.number > 0]
    if bars <= len(numbered):
        return numbered[bars - 1].end if bars > 0 else Fraction(0)
    return numbered[-1].end + (bars - len(numbered)) * numbered[-1].meter.bar_length


def bars_in_chorus(solo: Solo) -> int:
    """How many bars a chorus has, 0 where its length is not known."""
    return sum(1 for bar in BarGrid(solo).bars if bar.number > 0 and bar.onset < solo.chorus)


def chorus_at(solo: Solo, time: Fraction) -> int:
    """Which chorus a time is in, counted from 1; a pickup belongs to the first. 0 where choruses are not known."""
    return max(0, int(time // solo.chorus)) + 1 if solo.chorus else 0


def with_choruses(solo: Solo, chorus: Fraction, count: int) -> Solo:
    """The changes and sections of the first chorus under ``count`` choruses of that length, in place of what was there.

    Chords of other choruses go; notes stay. Raises ValueError for a length or a count below 1.
    """
    if chorus <= 0 or not 1 <= count <= MOST_CHORUSES:
        raise ValueError(f"{count} choruses of {chorus} quarter notes are no form")
    first = [event for event in solo.chords if event.onset < chorus]
    inside = [event for event in first if event.onset >= 0]
    sections = [section for section in solo.sections if 0 <= section.onset < chorus]
    known = {(event.onset, event.text): event for event in solo.chords}
    names = fresh_chord_ids(solo)
    chords = list(first)
    for chorus_number in range(1, count):
        for event in inside:
            onset = event.onset + chorus_number * chorus
            before = known.get((onset, event.text))
            if before is None:
                before = ChordEvent(next(names), onset, event.text)
            chords.append(before)
    return replace(
        solo,
        chords=tuple(chords),
        sections=tuple(
            replace(section, onset=section.onset + k * chorus) for k in range(count) for section in sections
        ),
        chorus=chorus,
        form_end=chorus * count,
    )


def with_chord_moved(solo: Solo, chord_id: str, beats: int) -> Solo:
    """A chord some beats earlier or later. It stops before its neighbours: the order of chords stays.

    Raises KeyError.
    """
    index = next((i for i, event in enumerate(solo.chords) if event.id == chord_id), None)
    if index is None:
        raise KeyError(chord_id)
    grid = BarGrid(solo)
    beats_of_all = [
        bar.onset - bar.lead_in + beat.offset
        for bar in grid.bars
        for beat in bar.meter.beats
        if bar.lead_in <= beat.offset < bar.lead_in + bar.length
    ]
    event = solo.chords[index]
    if beats > 0:
        places = [place for place in beats_of_all if place > event.onset][beats - 1 : beats]
    else:
        places = [place for place in reversed(beats_of_all) if place < event.onset][-beats - 1 : -beats]
    if not places:
        return solo
    low = solo.chords[index - 1].onset if index else None
    high = solo.chords[index + 1].onset if index + 1 < len(solo.chords) else None
    if (low is not None and places[0] <= low) or (high is not None and places[0] >= high):
        return solo
    chords = list(solo.chords)
    chords[index] = replace(event, onset=places[0])
    return replace(solo, chords=tuple(chords))
