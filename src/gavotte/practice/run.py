"""A run: several passes through a piece of music, one after another without a gap, as one solo that is played.

Each pass has its key and tempo, is played by the band and the soloist or left to the player, and shows all of its notes
or only some: so a phrase climbs in tempo, goes through the keys, is answered, and fades from the page.
"""

from __future__ import annotations

from bisect import bisect_right
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.skeleton import Level, levels_of
from gavotte.practice.band import HELD_BARS, ending_of, intro_of
from gavotte.practice.climbing import Climb, When
from gavotte.practice.item import PracticeItem
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Note, Solo, TempoChange
from gavotte.sounding.backing import USUAL_BACKING, Backing
from gavotte.workshop.stacked import Block, stacked


class Way(StrEnum):
    """How a run goes through the music."""

    ALONG = "along"
    ANSWER = "answer"
    READ = "read"
    KEYS = "keys"


class Fading(StrEnum):
    """What the page still shows while something is learned by heart."""

    ALL = "all"
    HALF = "half"
    SKELETON = "skeleton"
    LANE = "lane"
    CHORDS = "chords"
    FORM = "form"
    NOTHING = "nothing"
    STEP_BY_STEP = "step by step"


@dataclass(frozen=True, slots=True)
class RunWishes:
    """How a run is wished: the way, how many passes (of each key), the first tempo and how much is added at each pass
    (beats a minute), up to ``most``; what fades; whether the soloist is heard; whether the tempo climbs at each pass,
    or in another way while the run goes on (``need``: see ``climbing.py``).
    """

    way: Way = Way.ALONG
    passes: int = 4
    tempo: int = 100
    step: int = 0
    most: int = 400
    fading: Fading = Fading.ALL
    with_soloist: bool = False
    when: When = When.PASSES
    need: int = 2

    @property
    def climb(self) -> Climb:
        """How the tempo climbs while the run goes on."""
        return Climb(self.when, self.step, self.need, self.most)


class Part(StrEnum):
    """What a stretch of a run is."""

    MUSIC = "music"
    INTRO = "intro"
    ENDING = "ending"


@dataclass(frozen=True, slots=True)
class Pass:
    """One time through: from ``start`` to ``end`` of the run (quarter notes), the number of its key, its tempo
    (beats a minute), whether the player plays (else listens), and how much of it is shown. The band's intro and ending
    are passes too, of another ``part``.
    """

    start: Fraction
    end: Fraction
    key: int
    tempo: int
    is_played: bool
    fading: Fading
    part: Part = Part.MUSIC


@dataclass(frozen=True)
class Run:
    """``shown`` is what the page has, ``heard`` what sounds, ``passes`` what stands where, ``visible`` the ids of the
    notes that are not to be hidden, ``in_lane`` of those whose labels alone stay, ``backing`` how the band plays.
    """

    shown: Solo
    heard: Solo
    passes: tuple[Pass, ...]
    visible: frozenset[str]
    backing: Backing = USUAL_BACKING
    in_lane: frozenset[str] = frozenset()

    @property
    def turns(self) -> tuple[Pass, ...]:
        """The passes of the music itself."""
        return tuple(one for one in self.passes if one.part is Part.MUSIC)

    def pass_at(self, time: Fraction | float) -> int:
        """The number of the pass at a time, from 0."""
        return max(0, bisect_right([one.start for one in self.passes], time) - 1)

    def played_notes(self) -> Solo:
        """Only the notes that are the player's."""
        return replace(self.shown, notes=_in_passes(self, True))

    def page(self) -> Solo:
        """What the page has while it is played: of what is played by heart only what is to be shown."""
        if not any(one.fading in _WITHOUT_CHORDS for one in self.passes) and len(self.visible) == len(self.shown.notes):
            return self.shown
        there = self.visible | self.in_lane
        return replace(
            self.shown,
            notes=tuple(note for note in self.shown.notes if note.id in there),
            chords=tuple(
                chord
                for chord in self.shown.chords
                if self.passes[self.pass_at(chord.onset)].fading not in _WITHOUT_CHORDS
            ),
        )

    @property
    def is_blank(self) -> bool:
        """Whether nothing at all is to be read."""
        return all(one.fading is Fading.NOTHING for one in self.turns)


_WITHOUT_CHORDS = (Fading.FORM, Fading.NOTHING)
_STEPS = (Fading.ALL, Fading.HALF, Fading.SKELETON, Fading.LANE, Fading.CHORDS, Fading.FORM)
"""How the page fades from pass to pass."""

_MOST_BARS = 640
"""A run of several passes has no more bars than this."""


def run_of(
    item: PracticeItem,
    keys: Sequence[int],
    wishes: RunWishes,
    name_of: Callable[[Solo], str] = lambda solo: solo.keys[0].key.shown,
) -> Run:
    """A run through an item in some of its keys (numbers), one key after the other; fewer passes of what is long.
    ``name_of`` gives the name of a key for the heading of its passes.
    """
    blocks: list[Block] = []
    plan: list[tuple[int, int, bool, Fading, Part]] = []
    calls = wishes.way in (Way.ANSWER, Way.READ)
    bars = len(BarGrid(item.music).bars) * len(keys) * (2 if calls else 1)
    turns = max(1, min(wishes.passes, _MOST_BARS // max(1, bars)))
    for place, number in enumerate(keys):
        music = item.in_key(number)
        for turn in range(turns):
            steps = 0 if wishes.when is not When.PASSES else turn if wishes.way is not Way.KEYS else place
            tempo = min(wishes.most, wishes.tempo + wishes.step * steps)
            fading = _fading(wishes.fading, turn, turns)
            heading = (
                f"{name_of(music.solo)}, {tempo}"
                if len(keys) > 1 or (wishes.step and wishes.when is When.PASSES)
                else f"{turn + 1}"
            )
            if calls:
                word = "listen" if wishes.way is Way.ANSWER else "read"
                blocks.append(Block(music.solo, (), f"{heading}: {word}"))
                plan.append((number, tempo, False, Fading.ALL, Part.MUSIC))
                heading = f"{heading}: answer"
            blocks.append(Block(music.solo, (), heading))
            plan.append((number, tempo, True, fading, Part.MUSIC))
    _put_around(item, blocks, plan)
    page, _ = stacked(blocks, item.name)
    starts = [section.onset for section in page.sections]
    ends = [*starts[1:], page.end if page.end > starts[-1] else starts[-1] + 4]
    ends[-1] = BarGrid(page).bars[-1].end
    passes = tuple(Pass(start, end, *planned) for start, end, planned in zip(starts, ends, plan, strict=True))
    changes = tuple(
        TempoChange(one.start, item.beat * one.tempo)
        for before, one in zip((None, *passes), passes, strict=False)
        if before is not None and before.tempo != one.tempo
    )
    shown = replace(
        item.band.styled(page),
        tempo=item.beat * passes[0].tempo,
        tempo_changes=changes,
        form_end=passes[-1].end,
        title=item.name,
    )
    last = passes[-1]
    bar = shown.meters[-1].meter.bar_length
    held_from = max(last.start, last.end - HELD_BARS * bar) if last.part is Part.ENDING else None
    run = Run(shown, shown, passes, frozenset(), item.band.backing(held_from))
    heard = shown if wishes.with_soloist else replace(shown, notes=_in_passes(run, False))
    if wishes.way is Way.READ:
        heard = replace(shown, notes=_in_passes(run, True) if wishes.with_soloist else ())
    in_lane = frozenset(note.id for note in shown.notes if run.passes[run.pass_at(note.onset)].fading is Fading.LANE)
    return replace(run, heard=heard, visible=_visible(run), in_lane=in_lane)


def _put_around(item: PracticeItem, blocks: list[Block], plan: list[tuple[int, int, bool, Fading, Part]]) -> None:
    """Put the band's intro before the music, and its ending behind."""
    intro, ending = intro_of(blocks[0].solo, item.band.intro), ending_of(blocks[-1].solo, item.band.ending)
    if intro is not None:
        blocks.insert(0, Block(intro, (), "Intro"))
        plan.insert(0, (plan[0][0], plan[0][1], False, Fading.ALL, Part.INTRO))
    if ending is not None:
        blocks.append(Block(ending, (), "Ending"))
        plan.append((plan[-1][0], plan[-1][1], False, Fading.ALL, Part.ENDING))


def _fading(wished: Fading, turn: int, passes: int) -> Fading:
    if wished is not Fading.STEP_BY_STEP:
        return wished
    return _STEPS[round((len(_STEPS) - 1) * turn / max(1, passes - 1))]


def _in_passes(run: Run, played: bool) -> tuple[Note, ...]:
    return tuple(note for note in run.shown.notes if run.passes[run.pass_at(note.onset)].is_played is played)


def _visible(run: Run) -> frozenset[str]:
    """The notes that stay: all, those of every second bar, those of the skeleton, or none."""
    grid = BarGrid(run.shown)
    kept = set()
    bones: set[str] = set()
    if any(one.fading is Fading.SKELETON for one in run.passes):
        levels = levels_of(labelled(run.shown))
        bones = {note.id for note, level in zip(run.shown.notes, levels, strict=True) if level >= Level.BEATS}
    for note in run.shown.notes:
        one = run.passes[run.pass_at(note.onset)]
        bar = grid.index_at(note.onset) - grid.index_at(one.start)
        if (
            one.fading is Fading.ALL
            or (one.fading is Fading.HALF and bar % 2 == 0)
            or (one.fading is Fading.SKELETON and note.id in bones)
        ):
            kept.add(note.id)
    return frozenset(kept)
