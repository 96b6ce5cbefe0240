"""One's own solo: a free take over changes, drafted and written like any other solo, and what is to be said of it."""

from __future__ import annotations

from collections.abc import Generator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from gavotte.labelling.labeller import Labelled, labelled
from gavotte.phrasing.phrases import phrases_of
from gavotte.phrasing.telling import counted, listed
from gavotte.practice.item import PracticeItem
from gavotte.practice.meant import goal_words, vocabulary_words
from gavotte.practice.run import Run
from gavotte.recording.beat_map import Alignment, BeatMap
from gavotte.recording.draft import find_draft, player_of
from gavotte.recording.player import Samples
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Solo
from gavotte.sounding.timeline import Timeline
from gavotte.steps import scaled
from gavotte.theory.chord_symbol import shown_chord
from gavotte.writing.drafting import proposed, with_phrase

_MOST_LEFT_OUT = 3
_MANY = 0.6
"""Share of the phrases from which on a habit is told."""

_NAMES = {
    Function.CHORD: "chord tones",
    Function.EXTENSION: "extensions",
    Function.PASSING: "passing notes",
    Function.APPROACH: "approaches",
    Function.OUTSIDE: "outside",
}


@dataclass(frozen=True)
class OwnSolo:
    """The ``solo`` that was played, and where its beats lie in the take."""

    solo: Solo
    beats: BeatMap


def own_solo(run: Run, samples: Samples, start: float, rate: float) -> Generator[float, None, OwnSolo]:
    """The solo that was played over a run, its bar 1 at ``start`` seconds of the take, at a share of its tempo; yields
    the share that is done.
    """
    changes = replace(run.shown, notes=())
    draft = yield from scaled(find_draft(samples, player_of(changes.instrument)), 0.0, 0.98)
    beats = beats_of(Timeline(changes, Fraction(1)), start, rate)
    solo = changes
    for phrase in proposed(changes, draft.notes, Alignment(beats, BarGrid(changes))).proposal:
        solo = with_phrase(solo, phrase)
    yield 1.0
    return OwnSolo(solo, beats)


def beats_of(timeline: Timeline, start: float, rate: float = 1.0) -> BeatMap:
    """The beats of all whole bars, nominal 0 at ``start`` seconds, at a share of the tempo."""
    bars = [bar for bar in timeline.grid.bars if bar.number > 0]
    onsets = [bar.onset + beat.offset for bar in bars for beat in bar.meter.beats if bar.onset + beat.offset < bar.end]
    return BeatMap(tuple(round(start + timeline.seconds(onset) / rate, 4) for onset in onsets), 0)


def told_of_own(solo: Solo, goal: str = "", vocabulary: Sequence[PracticeItem] = ()) -> list[tuple[str, str]]:
    """What stands out in one's own solo, as headings and words: kind words, for nobody is compared with anybody.

    It is held against the ``goal`` it was played for (in words) and the ``vocabulary`` that is being practised.
    """
    if not solo.notes:
        return [("Your solo", "No notes were heard. Is the right microphone chosen, and the right instrument?")]
    found = labelled(solo)
    lines = [("Your solo", _summary(found))]
    for heading, words in (
        ("Meant", goal_words(found, goal)),
        ("Phrases", _beginnings(found)),
        ("Left out", _left_out(solo)),
        ("Vocabulary", vocabulary_words(solo, vocabulary)),
    ):
        if words:
            lines.append((heading, words))
    return lines


def _summary(found: Labelled) -> str:
    counts = {function: sum(label.function is function for label in found.labels) for function in Function}
    total = max(1, sum(counts.values()))
    shares = [f"{counts[function] / total:.0%} {_NAMES[function]}" for function in Function if counts[function]]
    return f"{counted(len(found.solo.notes), 'note')}: {listed(shares)}."


def _beginnings(found: Labelled) -> str:
    """How the phrases begin, and what they land on, where that is a habit."""
    notes, grid = found.solo.notes, found.frame.grid
    phrases = phrases_of(found.solo, found.labels)
    if len(phrases) < 3:
        return counted(len(phrases), "phrase").capitalize() + "."
    on_one = sum(grid.locate(notes[phrase.first].onset)[1] == 0 for phrase in phrases)
    chord_tones = sum(found.labels[phrase.last].function is Function.CHORD for phrase in phrases)
    ends_on_one = sum(grid.locate(notes[phrase.last].onset)[1] == 0 for phrase in phrases)
    parts = [f"{on_one or 'None'} of {len(phrases)} phrases {'begins' if on_one < 2 else 'begin'} on beat 1"]
    if chord_tones >= _MANY * len(phrases):
        parts.append(f"{chord_tones} end on a chord tone")
    if ends_on_one >= _MANY * len(phrases):
        parts.append(f"{ends_on_one} come to rest on beat 1")
    hint = ". Try beginning some of them elsewhere in the bar" if on_one >= _MANY * len(phrases) else ""
    return f"{', '.join(parts)}{hint}."


def _left_out(solo: Solo) -> str:
    """The chords over which nothing was begun, from the first note to the last."""
    grid, first, last = BarGrid(solo), solo.notes[0].onset, solo.notes[-1].onset
    ends = [*(event.onset for event in solo.chords[1:]), solo.end]
    silent = [
        f"{shown_chord(event.symbol)} in bar {grid.locate(event.onset)[0].number}"
        for event, end in zip(solo.chords, ends, strict=True)
        if first < end and event.onset < last and not any(event.onset <= note.onset < end for note in solo.notes)
    ]
    if not silent:
        return ""
    more = f", and {len(silent) - _MOST_LEFT_OUT} more" if len(silent) > _MOST_LEFT_OUT else ""
    return f"Nothing begins over {', '.join(silent[:_MOST_LEFT_OUT])}{more}."
