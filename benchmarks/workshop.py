"""What the workshop keeps and how fast it is: ``PYTHONPATH=. python benchmarks/workshop.py [passages.json]``.

* Lines fitted to chords of another quality: how many chord tones stay chord tones, how many goals keep their
  function, and to how many something still leads (what led there may be a chord tone now). The passages and composed
  lines were written for the labeller; nothing of the fitting was tuned on them.
* Joins between lines, and whether any leaps over a fifth without need.
* Positions: twenty lines with the fingering a player wrote down before the program saw them.
* How long it takes: a lick through 32 bars, an étude over 32 bars from 1,000 licks, positions for 200 notes, a step of
  every kind, and six variations.
"""

from __future__ import annotations

import random
import statistics
import sys
import time
from collections.abc import Callable, Sequence
from dataclasses import replace
from fractions import Fraction
from itertools import pairwise
from pathlib import Path

from tests.conftest import make_solo
from tests.labelling.lines import BY_RULE, LABELLED_BEFORE, solo_of
from tests.random_solos import random_solo

from gavotte.formats.passage import read_passages
from gavotte.harmony.ground import ground_of
from gavotte.labelling.chords_in_force import chord_spans
from gavotte.solo.document import ChordEvent, Function, Note, Solo
from gavotte.solo.strings import TUNINGS, fret_of
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.pitch import spell
from gavotte.theory.scale import collection_pitch_classes
from gavotte.workshop.etude import Wishes, etude, stocked
from gavotte.workshop.fitting import fitted
from gavotte.workshop.joining import FIFTH, Ground, on_beats, ways
from gavotte.workshop.operation import OperationError, Step, Values, worked
from gavotte.workshop.operations import ALL, OPERATIONS
from gavotte.workshop.over import Manner, laid_over
from gavotte.workshop.piece import Piece, piece_of
from gavotte.workshop.positions import cost_of_fingering, fingering, place_at
from gavotte.workshop.progressions import all_progressions, laid_out

QUALITIES = ("minor", "major", "dominant", "half-diminished", "diminished", "sus", "minor cadence", "major cadence")
PASSAGES = Path(__file__).parents[1] / "tests" / "data" / "passages.json"

PLAYED = (
    "6-3-2 6-5-4 5-2-1 5-3-2 5-5-4 4-2-1 4-4-3 4-5-4",
    "6-8-2 6-10-4 5-7-1 5-8-2 5-10-4 4-7-1 4-9-3 4-10-4",
    "6-5-1 6-8-4 5-5-1 5-7-3 4-5-1 4-7-3 3-5-1 3-7-3 2-5-1 2-8-4",
    "6-6-2 5-5-1 5-8-4 4-6-2 4-8-4 3-7-3",
    "5-5-1 5-8-4 4-7-3 3-5-1 3-7-3 2-6-2",
    "3-4-2 2-3-1 2-6-4 1-4-2 1-3-1 2-6-4 2-3-1 3-4-2",
    "2-6-3 2-4-1 2-5-2 3-5-2 3-4-1 3-7-4",
    "2-8-1 2-11-4 1-8-1 1-11-4 2-11-4 3-10-3 3-8-1 4-10-3",
    "1-8-4 1-5-1 2-8-4 2-6-2 2-5-1 3-7-3 3-5-1 4-7-3",
    "2-8-4 2-7-3 2-6-2 2-5-1 3-7-4 3-5-2 3-4-1 4-7-4",
    "5-3-2 4-2-1 4-5-4 3-4-3 3-5-4 2-5-4 1-3-2 1-7-4",
    "4-3-3 3-1-1 3-3-3 3-4-4 2-1-1 2-4-4",
    "6-0-0 6-3-3 5-0-0 5-2-2 4-0-0 4-2-2 3-0-0",
    "5-7-1 3-9-4 5-5-1 3-7-4",
    "3-5-1 2-5-1 3-7-3 2-6-2 2-5-1 2-8-4",
    "5-6-2 4-5-1 4-8-4 3-7-3",
    "4-9-3 3-7-1 3-10-4 2-9-3 1-7-1",
    "3-12-1 3-14-3 2-12-1 2-15-4 1-12-1 1-15-4",
    "3-5-1 3-6-2 3-7-3 3-8-4 2-5-1 2-6-2 2-7-3 2-8-4",
    "3-2-1 3-4-3 3-5-4 2-3-2 2-5-4 1-2-1 1-3-2 1-5-4",
)
"""String, fret and finger of each note, as a guitarist plays it."""


def fitting(solos: Sequence[Solo]) -> None:
    """Print how much of the lines keeps its function over chords of another quality."""
    print(f"{'all chords become':18} {'chord tones':>18} {'goals':>16} {'still led to':>16}")
    sums = [0] * 6
    for quality in QUALITIES:
        counts = [0] * 6
        for solo in solos:
            source = piece_of(solo)
            try:
                made = OPERATIONS["recast"].apply(
                    source, Values(OPERATIONS["recast"], {"quality": quality}), _NOTHING_AROUND
                )
            except OperationError:
                continue
            for k, number in enumerate(_kept(source, made)):
                counts[k] += number
        print(f"{quality:18} {_shares(counts)}")
        sums = [a + b for a, b in zip(sums, counts, strict=True)]
    print(f"{'together':18} {_shares(sums)}")


def _shares(counts: Sequence[int]) -> str:
    tones, goals, led = (_share(counts[k], counts[k + 1]) for k in (0, 2, 4))
    return f"{tones:>18} {goals:>16} {led:>16}"


def _kept(source: Piece, made: Piece) -> tuple[int, ...]:
    """Chord tones that stay chord tones where the new chord has that tone, goals that keep their function, and goals
    that something still leads to; each with of how many.
    """
    old, new = source.labelled, made.labelled
    spans = chord_spans(made.solo, made.solo.school, ground_of(made.solo))
    goals_before = {label.target for label in old.labels if label.target is not None}
    goals_after = {label.target for label in new.labels if label.target is not None}
    tones = kept = goals = goals_kept = led = 0
    for before, after in zip(old.labels, new.labels, strict=True):
        note = made.solo.note(after.note)
        span = [span for span in spans if span.onset <= note.onset][-1:] or [spans[0]]
        if before.function is Function.CHORD and _has_tone(span[0].chord, before.degree):
            tones += 1
            kept += after.function is Function.CHORD
        if before.note in goals_before:
            goals += 1
            goals_kept += after.function is before.function
            led += after.note in goals_after
    return kept, tones, goals_kept, goals, led, goals


def _has_tone(chord: Chord, degree: str) -> bool:
    """Whether a chord has a tone of a degree's number: a 3 or ♭3 for a 3."""
    number = degree.lstrip("b#")
    third = chord.is_suspended and number in ("3", "4", "2")
    return third or number in {tone.lstrip("b#") for tone in chord.tones}


def joins(seed: int = 1, count: int = 2000) -> None:
    """Print how the joins of random notes leap."""
    chance = random.Random(seed)
    chord = parse_chord_symbol("G7")
    assert isinstance(chord, Chord)
    scale = collection_pitch_classes("mixolydian", 7)
    needless = 0
    for _ in range(count):
        start, goal, size = chance.randint(52, 84), chance.randint(52, 84), chance.randint(1, 8)
        ground = Ground(chord, scale, on_beats(Fraction(chance.randint(0, 7), 2), size, Fraction(1, 2)))
        line = (start, *ways(start, goal, size, ground)[0].pitches, goal)
        widest = max(abs(b - a) for a, b in pairwise(line))
        needless += widest > FIFTH and abs(goal - start) <= FIFTH * (size + 1)
    print(f"joins: {count}, of them {needless} that leap over a fifth without need")


def positions() -> None:
    """Print how the fingerings found compare with a player's."""
    no_worse = same = 0
    for text in PLAYED:
        places = [place_at(*map(int, word.split("-"))) for word in text.split()]
        midis = [TUNINGS[0].strings[-place.string] + place.fret for place in places]
        notes = [Note(f"n{k}", Fraction(k, 2), Fraction(1, 2), spell(midi, 0)) for k, midi in enumerate(midis)]
        assert all(fret_of(m, p.string, TUNINGS[0]) == p.fret for m, p in zip(midis, places, strict=True))
        found = fingering(notes, TUNINGS[0])
        no_worse += found.cost <= cost_of_fingering(notes, places) + 1e-6
        strings = [place.string for place in found.places if place is not None]
        same += strings == [place.string for place in places]
    print(f"positions: {no_worse} of {len(PLAYED)} cost no more than the player's, {same} are on the same strings")


_NOTHING_AROUND = worked(piece_of(random_solo(0)), (), {}).around


def _share(kept: int, of: int) -> str:
    return f"{kept}/{of} {100 * kept / of:.1f} %" if of else "–"


def _timed(what: str, run: Callable[[], object], wished: str = "", times: int = 7) -> None:
    run()
    taken = []
    for _ in range(times):
        begun = time.perf_counter()
        run()
        taken.append(1000 * (time.perf_counter() - begun))
    print(f"{what:58} {statistics.median(taken):7.1f} ms  {wished}")


def speed() -> None:
    """Print how long things take."""
    bars = [("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 Gb5 Eb5 C#5"), ("Bbmaj7", "D5/2 r/2")]
    single = [("C7", "E5/8 F5 F#5 G5 A5 Bb5 C6 Bb5")]
    forms = all_progressions()
    for name, lick in (("A-A-B-A, bridge to IV", single), ("ii-V-I round the circle of fifths", bars)):

        def through(name: str = name, lick: list[tuple[str, str]] = lick) -> object:
            solo = make_solo(lick, key="Bb major")
            return laid_over(piece_of(solo), laid_out(forms[name], Key.parse("C major"), solo), Manner())

        _timed(f"a lick through {name}", through, "wished 50 for 32 bars")
    stock = [one for seed in range(1400) if (one := stocked(str(seed), "", "", _lick(seed))) is not None][:1000]
    solo = make_solo(single, key="F major")
    form = laid_out(forms["A-A-B-A, bridge to IV"], Key.parse("F major"), solo)
    _timed(f"an étude over 32 bars from {len(stock)} licks", lambda: etude(form, stock, Wishes()), "wished 1000")
    long = [Note(f"n{k}", Fraction(k, 2), Fraction(1, 2), spell(52 + (7 * k) % 29, 0)) for k in range(200)]
    _timed("positions for 200 notes", lambda: fingering(long, TUNINGS[0]), "wished 50")
    slowest = ("", 0.0)
    for operation in ALL:
        piece = piece_of(make_solo(bars, key="Bb major"))
        worked(piece, [Step(operation.name)], OPERATIONS)
        begun = time.perf_counter()
        worked(piece_of(replace(piece.solo)), [Step(operation.name)], OPERATIONS)
        slowest = max(slowest, (operation.words, 1000 * (time.perf_counter() - begun)), key=lambda pair: pair[1])
    print(f"{'the slowest step with a lick of two bars':58} {slowest[1]:7.1f} ms  {slowest[0]}")
    from gavotte.workshop.proposals import variations

    _timed("six variations", lambda: variations(piece_of(make_solo(bars, key="Bb major")), 1, OPERATIONS))
    fresh = [ChordEvent("c", Fraction(0), "Dm7b5")]
    _timed("a lick fitted to another chord", lambda: fitted(piece_of(make_solo(single, key="F major")), fresh))


def _lick(seed: int) -> Solo:
    """A lick by chance of eight eighths, over one chord or a ii-V, in any key."""
    chance = random.Random(seed)
    pitch, words = chance.randint(60, 72), []
    for _ in range(8):
        pitch = min(84, max(55, pitch + chance.choice((-4, -3, -2, -1, 1, 2, 3, 4))))
        words.append(str(spell(pitch, 0)))
    chords = chance.choice(("Dm7", "G7", "Cmaj7", "Dm7 G7", "Bm7b5", "C7", "Am7"))
    return make_solo([(chords, f"{words[0]}/8 {' '.join(words[1:])}")], key="C major")


def main() -> None:
    """Print it all."""
    path = Path(sys.argv[1]) if len(sys.argv) > 1 else PASSAGES
    print("passages")
    fitting([passage.solo for passage in read_passages(path.read_text(encoding="utf-8"))])
    print("\nlines composed for the labeller")
    fitting([solo_of(line) for line in (*LABELLED_BEFORE, *BY_RULE)])
    print()
    joins()
    positions()
    print()
    speed()


if __name__ == "__main__":
    main()
