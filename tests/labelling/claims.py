"""What a reason claims, taken apart and held against the notes.

Each sentence the program can say is a pattern here. What stands in its places is a claim: a pitch, a beat, a degree
over a chord, a step, a half step, where the line comes from and where it goes. Claims are tried on the notes and chords
of the solo alone, by arithmetic of their own.
"""

from __future__ import annotations

import itertools
import re
from bisect import bisect_right
from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property

from gavotte.harmony.ground import ground_of
from gavotte.solo.document import ChordEvent, Note, Solo
from gavotte.solo.label import Label
from gavotte.theory.chord import Chord
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord
from gavotte.theory.pitch import PitchName

NAME = r"[A-G][♭♯𝄪𝄫]*"
DEGREE = r"(?:blue ♭[357]|major 7th|tonic|root|[♭♯°]*\d+(?:rd|th)?)"
PLACE = r"(?:beat \d+|the [a-z ]+ \d+|just after beat \d+)"
CHORD = r"[^;:]+?"
THIS = rf"(?P<name>{NAME}) (?:on )?(?P<place>{PLACE})"
IS = rf"the (?P<degree>{DEGREE}) of (?P<chord>{CHORD})"
GOAL = rf"(?P<goal>{NAME}), the (?P<goal_degree>{DEGREE}) of (?P<goal_chord>{CHORD})"
BESIDE = rf"\((?P<beside>{DEGREE}) of (?P<beside_chord>{CHORD})\)"
MANNER = r"(?P<manner>[a-z ]+)"
COLOUR = r"(?:an altered colour|a colour of its own)"
OF_KEY = r"the (?P<key_degree>[^ ]+(?: 7th)?) of (?P<key>.+)"
BEFORE, NEXT = rf"(?P<before>{NAME})", rf"(?P<next>{NAME})"
STEP_IN, STEP_OUT, WAY = "(?P<step_in>step)", "(?P<step_out>step)", "(?P<way>up|down)"
THROUGH = "(?: through (?P<through>.+?))?"
APART = r"(?P<apart>neither in .+ nor in its scale|the .+, not in .+,)"
LISTEN = "; listen again, it may be a slip of the pen"

TEMPLATES: dict[str, str] = {
    "home": rf"(?:No chord is written here; )?{THIS} is {OF_KEY}, a note to rest on",
    "unread": rf"The chord symbol “.+” can't be read; {THIS} stands alone: by the key it is {OF_KEY}",
    "early": rf"{THIS} comes early: it is already the (?P<coming_degree>{DEGREE}) of (?P<coming>{CHORD})",
    "carried": rf"{THIS} is carried over from (?P<old>{CHORD}),? and then (?P<step_out>steps) into {GOAL}",
    "of a centre": rf"{THIS} is the (?P<centre_degree>{DEGREE}) of (?P<centre>[^,]+), in which this stretch is heard"
    rf"(?: {BESIDE})?",
    "blue": rf"{THIS} is the (?P<degree>blue ♭[357]) of (?P<chord>{NAME})(?:, whatever the chord says {BESIDE})?",
    "chord tone": rf"{THIS} is {IS}",
    "clash": rf"{THIS}(?:, {MANNER},)? rubs as the (?P<degree>{DEGREE}) against (?P<chord>{CHORD}); "
    "players do this on purpose, or by slip",
    "colour": rf"{THIS}, {MANNER}, is {COLOUR}: {IS}",
    "colour left over": rf"{THIS} moves on by {STEP_OUT}, but to nothing it would lead into; it is {COLOUR}: {IS}",
    "colour alone": rf"{THIS} leads (?P<nowhere>nowhere); it is {COLOUR}: {IS}",
    "neighbour": rf"{THIS} (?P<step_in>steps) away from {BEFORE} and (?P<returns>back) to it \({GOAL}\)",
    "step": rf"{THIS} (?P<arrives>[a-z ]+) and resolves by {STEP_OUT} (?P<next_goal>into) {GOAL}",
    "steps": rf"{THIS} (?P<arrives>[a-z ]+) and goes on by {STEP_OUT}{THROUGH} to {GOAL}",
    "passing": rf"{THIS} passes by {STEP_IN} from {BEFORE}{THROUGH} (?P<one_way>to) {GOAL}",
    "turning": rf"{THIS} is (?P<step_in>stepped) to from {BEFORE}, then turns and goes on (?P<turn>up|down) "
    rf"by {STEP_OUT}{THROUGH} to {GOAL}",
    "half step": rf"{THIS} (?P<slides>slides|leads) {WAY} a (?P<half_out>half step) into {GOAL}",
    "half step above": rf"{THIS} leaves {BEFORE} by a (?P<half_above>half step) "
    rf"and (?P<returns>falls back) into it \({GOAL}\)",
    "half step below": rf"{THIS} dips a (?P<half_below>half step) below {BEFORE} "
    rf"and (?P<returns>comes back) to it \({GOAL}\)",
    "link": rf"{THIS} (?P<link>fills in) the step from {BEFORE} to {NEXT}, on the way {WAY} to {GOAL}",
    "half steps": rf"{THIS} runs {WAY} by (?P<half_out>half steps) from (?P<half_before>{NAME}) to {GOAL}",
    "step and half step": rf"{THIS} comes by {STEP_IN} from {BEFORE} and leads on {WAY} "
    rf"a (?P<half_out>half step) into {GOAL}",
    "implied": rf"{THIS} belongs to (?P<spelled>[^,]+), laid over (?P<over>{CHORD})",
    "upper structure": rf"{THIS} belongs to (?P<spelled>[^,]+), spelled out over (?P<over>{CHORD}): it is {IS}"
    "(?:, where it rubs)?",
    "chromatic run": rf"{THIS} runs {WAY} by (?P<run>half steps) to {GOAL}",
    "double approach": rf"{THIS} belongs to two half steps from (?P<double>below|above) that lead into {GOAL}",
    "enclosure": rf"{THIS} is part of the (?P<ring>ring) of notes above and below that closes in on {GOAL}",
    "in fourths": rf"{THIS} is {APART} but is one of the fourths (?P<fourths>.+): a shape that leaves the chord",
    "leads nowhere": rf"{THIS} is {APART} and leads (?P<nowhere>nowhere){LISTEN}",
    "no step": rf"{THIS} is {APART} and does (?P<no_step>not lead on by step){LISTEN}",
    "whole step": rf"{THIS} is {APART} and goes on to {NEXT} by (?P<more>more) than the half step that would lead there"
    rf"{LISTEN}",
    "half step to no rest": rf"{THIS} is {APART} and moves a (?P<half_out>half step) to {NEXT}, "
    rf"(?P<no_rest>no note to rest on){LISTEN}",
}
_PATTERNS = {name: re.compile(rf"{pattern}\.?") for name, pattern in TEMPLATES.items()}

SEMITONES = {
    "root": {0}, "tonic": {0}, "1": {0}, "♭9": {1}, "♭2": {1}, "9": {2}, "2": {2}, "♯9": {3}, "♭3": {3}, "3rd": {4},
    "3": {4}, "11": {5}, "4": {5}, "♯11": {6}, "♭5": {6}, "♯4": {6}, "5th": {7}, "5": {7}, "♭13": {8}, "♯5": {8},
    "♭6": {8}, "13": {9}, "6": {9}, "°7": {9}, "♭7": {10}, "major 7th": {11}, "7": {11},
}  # fmt: skip
"""The semitones above a root that each name of a degree may stand for."""

STEP = {1, 2}
Claim = tuple[str, bool]
"""What kind of claim, and whether the notes bear it out."""


class NoTemplateError(AssertionError):
    """A reason that is worded as none of the templates."""


def template_of(reason: str) -> tuple[str, re.Match[str]]:
    """Which template a reason follows, with what it says in its places. Raises NoTemplateError."""
    found = [(name, match) for name, pattern in _PATTERNS.items() if (match := pattern.fullmatch(reason))]
    if not found:
        raise NoTemplateError(reason)
    return found[0]


@dataclass(frozen=True)
class Ear:
    """A solo as one hears it note by note: chords in force, rests, neighbours at another pitch."""

    solo: Solo

    @cached_property
    def notes(self) -> tuple[Note, ...]:
        return self.solo.notes

    @cached_property
    def chords(self) -> list[ChordEvent]:
        """The chords, of two at one place the second, one written again left out."""
        chords: list[ChordEvent] = []
        for event in self.solo.chords:
            if chords and chords[-1].onset == event.onset:
                chords.pop()
            if not chords or chords[-1].text != event.text:
                chords.append(event)
        return chords

    def place_of_chord(self, i: int) -> int:
        onsets = [event.onset for event in self.chords]
        return max(0, bisect_right(onsets, self.notes[i].onset) - 1)

    def chord(self, i: int, by: int = 0) -> Chord | None:
        """The chord in force at a note, or ``by`` chords later; None where there is none that can be read."""
        place = self.place_of_chord(i) + by
        if not 0 <= place < len(self.chords):
            return None
        symbol = self.chords[place].symbol
        return symbol if isinstance(symbol, Chord) else None

    def beat(self, i: int) -> tuple[Fraction, Fraction, int, bool]:
        """A note's offset in its beat, the beat's length, its number from 1, and whether it is strong."""
        bar = ground_of(self.solo).grid.at(self.notes[i].onset)
        # A pickup is the end of a bar.
        start = bar.onset if bar.number > 0 else bar.end - bar.meter.bar_length
        offset = self.notes[i].onset - start
        number, beat = bar.meter.beat_at(offset)
        return offset - beat.offset, beat.length, number + 1, beat.strong

    def rest_after(self, i: int) -> bool:
        if i + 1 >= len(self.notes):
            return True
        return self.notes[i + 1].onset - self.notes[i].end >= self.beat(i)[1] / 2

    def other(self, i: int, way: int) -> int | None:
        """The nearest note at another pitch, before (-1) or after (1), with no rest between."""
        j = i
        while 0 <= j + way < len(self.notes):
            if self.rest_after(min(j, j + way)):
                return None
            j += way
            if self.pitch(j) != self.pitch(i):
                return j
        return None

    def pitch(self, i: int) -> int:
        return self.notes[i].pitch.midi

    def name(self, i: int) -> str:
        return self.notes[i].pitch.shown

    def steps(self, i: int, j: int | None) -> bool:
        """Whether two notes are a step apart; three semitones may be one in the local scale."""
        return j is not None and abs(self.pitch(i) - self.pitch(j)) in (STEP | {3})

    def is_held(self, i: int) -> bool:
        note = self.notes[i]
        before, after = self._together(i, -1), self._together(i, 1)
        longer = before is not None and after is not None and before <= note.duration > after
        is_last = any(phrase.last == note.id for phrase in self.solo.phrases)
        return note.duration >= self.beat(i)[1] or longer or self.rest_after(i) or is_last

    def _together(self, i: int, way: int) -> Fraction | None:
        """How long the nearest other pitch lasts with what strikes it again over one chord."""
        j = i
        while 0 <= j + way < len(self.notes) and self._joined(min(j, j + way)):
            j += way
        j += way
        if not 0 <= j < len(self.notes):
            return None
        length = self.notes[j].duration
        while 0 <= j + way < len(self.notes) and self._joined(min(j, j + way)):
            j += way
            length += self.notes[j].duration
        return length

    def _joined(self, i: int) -> bool:
        a, b = self.notes[i], self.notes[i + 1]
        alike = a.pitch.midi == b.pitch.midi and not (a.grace or b.grace)
        return alike and not self.rest_after(i) and self.place_of_chord(i) == self.place_of_chord(i + 1)


_PARTS = {
    "beat": Fraction(0), "the and of": Fraction(1, 2), "the middle of": Fraction(1, 2),
    "the second sixteenth of": Fraction(1, 4), "the last sixteenth of": Fraction(3, 4),
    "the second triplet of": Fraction(1, 3), "the last triplet of": Fraction(2, 3),
    "the second eighth of": Fraction(1, 3), "the third eighth of": Fraction(2, 3),
}  # fmt: skip


def claims(ear: Ear, i: int, reason: str, target: int | None) -> Iterator[Claim]:
    """Every claim of the reason of the note at ``i`` that leads to ``target``. Raises NoTemplateError."""
    template, match = template_of(reason)
    said = {name: text for name, text in match.groupdict().items() if text is not None}
    yield "pitch", said["name"] == ear.name(i)
    yield "beat", _is_at(ear, i, said["place"])
    before, after = ear.other(i, -1), ear.other(i, 1)
    out = 0 if after is None else ear.pitch(after) - ear.pitch(i)
    into = 0 if before is None else ear.pitch(i) - ear.pitch(before)
    if "degree" in said:
        yield "degree and chord", _is_degree(ear, i, i, said["degree"], said["chord"], template)
    if "beside" in said:
        yield "degree and chord", _is_degree(ear, i, i, said["beside"], said["beside_chord"], template)
    if "key_degree" in said:
        yield "degree of the key", _is_of_key(ear, i, said["key_degree"], said["key"])
    if "centre" in said:
        yield "degree of the centre", _is_of_centre(ear, i, said["centre_degree"], said["centre"])
    if "over" in said:
        yield "chord", _is_over(ear, i, said["over"])
    if "coming" in said:
        yield "the coming chord", _is_degree(ear, i, i, said["coming_degree"], said["coming"], template, by=1)
    if "old" in said:
        yield "the chord before", i > 0 and _is_over(ear, i - 1, said["old"].rstrip(","))
    if "goal" in said:
        aimed = target is not None and target > i
        yield "target", aimed and said["goal"] == ear.name(target or 0)
        yield (
            "degree of the target",
            aimed and _is_degree(ear, target or 0, target or 0, said["goal_degree"], said["goal_chord"], template),
        )
    if "before" in said or "half_before" in said:
        comes_from = said.get("before") or said["half_before"]
        yield "the note before", before is not None and comes_from == ear.name(before)
    if "next" in said:
        yield "the next note", after is not None and said["next"] == ear.name(after)
    if "next_goal" in said:
        yield "the next note", target == after
    if "through" in said:
        between = [] if target is None else [ear.name(k) for k in range(i + 1, target)]
        yield "the notes between", set(said["through"].split(" and ")) == set(between) - {ear.name(i)}
        yield "step", _is_chain(ear, i, target)
    if "step_in" in said:
        yield "step", ear.steps(i, before)
    if "step_out" in said:
        yield "step", ear.steps(i, after)
    if "no_step" in said:
        yield "no step", after is not None and abs(out) > 2
    if "nowhere" in said:
        yield "no step", after is None
    if "more" in said:
        yield "more than a half step", abs(out) in (2, 3)
    if "no_rest" in said:
        yield "no rest", after is not None and not _is_tone(ear, after)
    if "half_out" in said:
        yield "half step", abs(out) == 1
    if "half_before" in said:
        yield "half step", abs(into) == 1
    if "half_above" in said:
        yield "half step", into == 1 and out == -1
    if "half_below" in said:
        yield "half step", into == -1 and out == 1
    if "way" in said:
        yield "direction", out * (1 if said["way"] == "up" else -1) > 0
    if "turn" in said:
        yield "direction", out * (1 if said["turn"] == "up" else -1) > 0 > into * out
    if "one_way" in said:
        yield "direction", into * out > 0
    if "returns" in said:
        yield "return", before is not None and after is not None and ear.pitch(before) == ear.pitch(after)
    if "link" in said:
        yield "half step", abs(out) == 1 and into * out > 0 and abs(into + out) in (2, 3) and _is_chain(ear, i, target)
    if "run" in said:
        yield "half steps", _is_chain(ear, i, target, {1})
    if "double" in said:
        yield "two half steps", _is_double(ear, i, target, -1 if said["double"] == "below" else 1)
    if "ring" in said:
        yield "above and below", _is_ring(ear, i, target)
    if "slides" in said:
        yield "short", (said["slides"] == "slides") == (2 * ear.notes[i].duration <= ear.beat(i)[1])
    if "manner" in said:
        for manner in said["manner"].split(" and "):
            yield "manner", _is_so(ear, i, manner)
    if "arrives" in said:
        yield "manner", _is_so(ear, i, _ARRIVES[said["arrives"]])
    if "apart" in said:
        yield "not in the chord", not _is_tone(ear, i)
    if "spelled" in said:
        yield "the chord spelled", _spells(ear, i, said["spelled"])
    if "fourths" in said:
        yield "fourths", _are_fourths(ear, i, said["fourths"])


_ARRIVES = {
    "is leapt to": "leapt to", "is struck again": "struck again", "comes after a rest": "after a rest",
    "starts the line": "at the start of the line",
}  # fmt: skip


def _is_at(ear: Ear, i: int, place: str) -> bool:
    words, number = place.rsplit(" ", 1)
    part, length, beat, _ = ear.beat(i)
    if int(number) != beat:
        return False
    if words == "just after beat":
        return part > 0
    return _PARTS[words] * length == part


def _names(words: str, chord: Chord | None) -> bool:
    """Whether words name a chord as it is written, and as it is read where that differs."""
    if chord is None:
        return False
    read, _, written = words.partition(", written ")
    if written:
        as_read = parse_chord_symbol(read)
        return written == shown_chord(chord) and isinstance(as_read, Chord) and as_read == chord.as_read != chord
    if chord.as_read != chord:
        # Said again in one sentence it is named as it is read.
        return parse_chord_symbol(read) == chord.as_read
    return read == shown_chord(chord)


def _is_tone(ear: Ear, i: int) -> bool:
    chord = ear.chord(i)
    return chord is not None and ear.pitch(i) % 12 in chord.as_read.tone_classes


def _is_over(ear: Ear, i: int, words: str) -> bool:
    """Whether words name what a note is heard against: the chord in force, or its key where none is written."""
    chord = ear.chord(i)
    return words == _key_words(ear, i) if chord is None else _names(words, chord)


def _is_degree(ear: Ear, i: int, at: int, degree: str, chord: str, template: str, by: int = 0) -> bool:
    if degree.startswith("blue "):
        region = ground_of(ear.solo).key_at(ear.notes[at].onset)
        above = (ear.pitch(i) - region.key.tonic.pitch_class) % 12
        return region.blues and chord == region.key.tonic.shown and above in SEMITONES[degree.removeprefix("blue ")]
    over = ear.chord(at, by)
    if over is None:
        return _is_of_key(ear, i, degree, chord)
    above = (ear.pitch(i) - over.as_read.root.pitch_class) % 12
    return _names(chord, over) and above in SEMITONES[degree]


def _is_of_key(ear: Ear, i: int, degree: str, key: str) -> bool:
    region = ground_of(ear.solo).key_at(ear.notes[i].onset)
    return (
        key == _key_words(ear, i)
        and (ear.pitch(i) - region.key.tonic.pitch_class) % 12 in SEMITONES[degree.removeprefix("blue ")]
    )


def _is_of_centre(ear: Ear, i: int, degree: str, centre: str) -> bool:
    tonic = PitchName.parse(centre.split()[0])
    return (ear.pitch(i) - tonic.pitch_class) % 12 in SEMITONES[degree.removeprefix("blue ")]


def _key_words(ear: Ear, i: int) -> str:
    region = ground_of(ear.solo).key_at(ear.notes[i].onset)
    return f"{region.key.tonic.shown} blues" if region.blues else region.key.shown


def _is_chain(ear: Ear, i: int, target: int | None, sizes: set[int] | None = None) -> bool:
    """Whether steps in one direction lead from a note to its target."""
    if target is None:
        return False
    moves = [ear.pitch(k + 1) - ear.pitch(k) for k in range(i, target) if ear.pitch(k + 1) != ear.pitch(k)]
    alike = len({move > 0 for move in moves}) == 1
    return alike and all(abs(move) in (sizes or STEP | {3}) for move in moves)


def _is_double(ear: Ear, i: int, target: int | None, side: int) -> bool:
    if target is None:
        return False
    apart = [ear.pitch(k) - ear.pitch(target) for k in range(max(0, target - 8), target)]
    last = [a for k, a in enumerate(apart) if k + 1 == len(apart) or apart[k + 1] != a][-2:]
    return last == [2 * side, side] and ear.pitch(i) - ear.pitch(target) in last


def _is_ring(ear: Ear, i: int, target: int | None) -> bool:
    """Whether the notes up to the target, with some before, lie on both sides of it within a whole step."""
    if target is None:
        return False
    start = target
    while start > 0 and 0 < abs(ear.pitch(start - 1) - ear.pitch(target)) <= 2 and not ear.rest_after(start - 1):
        start -= 1
    apart = [ear.pitch(k) - ear.pitch(target) for k in range(start, target)]
    return start <= i and min(apart) < 0 < max(apart)


def _is_so(ear: Ear, i: int, manner: str) -> bool:
    before, after = ear.other(i, -1), ear.other(i, 1)
    match manner:
        case "held":
            return ear.is_held(i)
        case "leapt to":
            return before == i - 1 and abs(ear.pitch(i) - ear.pitch(i - 1)) > 2
        case "left by leap":
            return after is not None and abs(ear.pitch(after) - ear.pitch(i)) > 2
        case "after a rest":
            return i > 0 and ear.rest_after(i - 1)
        case "at the start of the line":
            return i == 0
        case "struck again":
            return i > 0 and ear.pitch(i - 1) == ear.pitch(i) and not ear.rest_after(i - 1)
        case "on a strong beat":
            return ear.beat(i)[0] == 0 and ear.beat(i)[3]
    return False


def _spells(ear: Ear, i: int, words: str) -> bool:
    """Whether a note is a tone of what is spelled: 1 3 5 7 9 of a chord, a minor pentatonic, fourths."""
    if words.startswith("fourths ("):
        return _are_fourths(ear, i, words.removeprefix("fourths (").rstrip(")"))
    if words.endswith(" minor pentatonic"):
        root = parse_chord_symbol(words.split()[1])
        return isinstance(root, Chord) and (ear.pitch(i) - root.root.pitch_class) % 12 in (0, 3, 5, 7, 10)
    chord = parse_chord_symbol(words)
    if not isinstance(chord, Chord):
        return False
    tones = {(tone - chord.root.pitch_class) % 12 for tone in chord.tone_classes} | {2}
    return (ear.pitch(i) - chord.root.pitch_class) % 12 in tones


def _are_fourths(ear: Ear, i: int, words: str) -> bool:
    names = words.split()
    # A pitch struck again is looked past.
    line = list(range(max(0, i - 12), min(len(ear.notes), i + 13)))
    line = [k for k in line if k == line[0] or ear.pitch(k) != ear.pitch(k - 1)]
    for three in zip(line, line[1:], line[2:], strict=False):
        moves = {ear.pitch(b) - ear.pitch(a) for a, b in itertools.pairwise(three)}
        if moves in ({5}, {-5}) and [ear.name(k) for k in three] == names and three[0] <= i:
            return True
    return False


def names_given(ear: Ear, i: int, reason: str, target: int | None) -> Iterator[tuple[tuple[int, int], str]]:
    """What a reason calls a pitch over a chord: pitch class and place of the chord, and the degree."""
    said = template_of(reason)[1].groupdict()
    if said.get("degree"):
        yield (ear.pitch(i) % 12, ear.place_of_chord(i)), said["degree"]
    if said.get("goal_degree") and target is not None:
        yield (ear.pitch(target) % 12, ear.place_of_chord(target)), said["goal_degree"]


def reasons_of(label: Label) -> Iterator[tuple[str, str | None]]:
    """A label's reasons, its own and those of its alternatives, each with the id of its target."""
    if not label.decided:
        yield label.reason, label.target
    for alternative in label.alternatives:
        yield alternative.reason, alternative.target
