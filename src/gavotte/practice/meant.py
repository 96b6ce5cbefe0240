"""What a solo was meant to practise: its goal in words, and the vocabulary, held against what was played."""

from __future__ import annotations

import itertools
import re
from collections.abc import Sequence

from gavotte.labelling.labeller import Labelled
from gavotte.phrasing.phrases import phrases_of
from gavotte.phrasing.telling import counted, listed
from gavotte.practice.item import Kind, PracticeItem
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Solo
from gavotte.theory.degrees import shown_degree

_LANDING = re.compile(
    r"\bland(?:s|ing)?\b.*?\bon (?:the )?(?P<degree>root|[#b♯♭]?\d{1,2})(?:st|nd|rd|th)?\b", re.IGNORECASE
)
_EMPTY = re.compile(
    r"\b(?P<count>\d+|one|two|three|four|five|six|seven|eight) bars? (?:empty|of rest|free)\b", re.IGNORECASE
)
_NUMBERS = ("one", "two", "three", "four", "five", "six", "seven", "eight")
_SAME = {"2": "9", "4": "11", "6": "13"}
_NOTES, _SHARE = 5, 0.6
"""A lick was used where so many of its notes in a row were played, and this share of it."""

_MOST_NAMES = 3


def goal_words(found: Labelled, goal: str) -> str:
    """How a solo came out beside its goal: where to land, how many bars to leave empty; "" for other goals."""
    parts = []
    landing, empty = _LANDING.search(goal), _EMPTY.search(goal)
    if landing is not None:
        wanted = landing["degree"].lower().replace("♯", "#").replace("♭", "b")
        parts.append(_landed(found, "1" if wanted == "root" else wanted))
    if empty is not None:
        count = empty["count"].lower()
        parts.append(_left_empty(found.solo, _NUMBERS.index(count) + 1 if count in _NUMBERS else int(count)))
    return " ".join(parts)


def _landed(found: Labelled, degree: str) -> str:
    phrases = phrases_of(found.solo, found.labels)
    wanted = _SAME.get(degree, degree)

    def is_there(label_degree: str) -> bool:
        own = _SAME.get(label_degree, label_degree)
        # "The 3rd" is the chord's own third, major or minor.
        return own == wanted or (wanted in ("3", "5", "7") and own.lstrip("b#") == wanted)

    there = sum(is_there(found.labels[phrase.last].degree) for phrase in phrases)
    landed, of = "lands" if there == 1 else "land", counted(len(phrases), "phrase")
    name = (
        "root"
        if degree == "1"
        else f"{shown_degree(degree)}{'rd' if degree.endswith('3') and wanted != '13' else 'th'}"
    )
    return f"{there or 'None'} of {of} {landed} on the {name}, as you meant to."


def _left_empty(solo: Solo, count: int) -> str:
    grid = BarGrid(solo)
    filled = {k for note in solo.notes for k in grid.sounding(note.onset, note.duration)}
    free = [bar.number for k, bar in enumerate(grid.bars) if bar.number > 0 and k not in filled]
    if not free:
        return f"No bar was left empty; you meant to leave {count}."
    there, which = "was" if len(free) == 1 else "were", listed([str(number) for number in free[:6]])
    return f"{counted(len(free), 'bar')} {there} left empty ({which}); you meant to leave {count}."


def vocabulary_words(solo: Solo, items: Sequence[PracticeItem]) -> str:
    """Which of the licks and phrases that are practised were used in a solo; "" where none are."""
    lines = [item for item in items if item.kind in (Kind.LICK, Kind.PHRASE) and len(item.music.notes) >= _NOTES]
    if not lines:
        return ""
    grid = BarGrid(solo)
    used = []
    for item in lines:
        at = where_used(solo, item.music)
        if at is not None:
            used.append(f"“{item.name}” in bar {grid.locate(solo.notes[at].onset)[0].number}")
    was = "was" if len(used) == 1 else "were"
    words = f"{len(used) or 'None'} of the {counted(len(lines), 'line')} you practise {was} used"
    more = f", and {len(used) - _MOST_NAMES} more" if len(used) > _MOST_NAMES else ""
    return f"{words}: {listed(used[:_MOST_NAMES])}{more}." if used else f"{words}."


def where_used(solo: Solo, line: Solo) -> int | None:
    """At which note of a solo a good part of a line begins, in whatever key; None where it was not used."""
    mine, its = _steps(solo), _steps(line)
    indexes = [index for index, note in enumerate(solo.notes) if not note.grace]
    need = max(_NOTES - 1, round(_SHARE * len(its)))
    best: tuple[int, int] | None = None
    # The longest run of steps both have: rows of the table of common endings, one after the other.
    before = [0] * (len(its) + 1)
    for i, step in enumerate(mine):
        now = [0] * (len(its) + 1)
        for j, other in enumerate(its):
            if step == other:
                now[j + 1] = before[j] + 1
                if now[j + 1] >= need and (best is None or now[j + 1] > best[0]):
                    best = (now[j + 1], i - now[j + 1] + 1)
        before = now
    return indexes[best[1]] if best is not None else None


def _steps(solo: Solo) -> list[int]:
    notes = [note for note in solo.notes if not note.grace]
    return [after.pitch.midi - before.pitch.midi for before, after in itertools.pairwise(notes)]
