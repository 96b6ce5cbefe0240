"""The chord line as text: bars between "|", chords in them, read with every mistake at its place, and written.

In a bar chords share the beats, earlier ones longer; ``/`` gives the chord before another beat and ``%`` alone repeats
the bar before; ``-`` leaves a bar open. ``G7@2.5`` puts a chord on the and of 2. ``[A]`` begins a section, ``|: … :|``
is written out twice. Before the first "|" stands the pickup's chord, where the solo has a pickup. Lines are only for
the eye.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from gavotte.solo.bars import Bar, BarGrid
from gavotte.solo.document import ChordEvent, Section, Solo
from gavotte.theory.chord import Chord, RepeatChord, UnreadChord
from gavotte.theory.chord_symbol import ChordSymbolError, parse_chord_symbol, write_chord_symbol
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.writing.placing import fresh_chord_ids

_TOKEN = re.compile(r"\|:|:\||\|+|\[[^\]\n]*\]?|[^\s|\[]+")
_PLACE = re.compile(r"(?P<symbol>.+)@(?P<beat>\d+(?:\.\d+)?)(?:\+(?P<above>\d+)/(?P<below>[1-9]\d*))?")
BARS_A_LINE = 4
MOST_BARS = 2000
"""No solo is longer."""


@dataclass(frozen=True, slots=True)
class Problem:
    """A stretch of the text (indices) that can't be read, and why."""

    start: int
    end: int
    why: str


@dataclass(frozen=True, slots=True)
class _Slot:
    """One sign of a bar: a chord in normal form, "/" for one that goes on, "-" for none. ``place`` is a given beat."""

    text: str
    place: Fraction | None = None


@dataclass(slots=True)
class _TextBar:
    slots: list[_Slot]
    section: str | None = None
    start: int = 0
    end: int = 0


@dataclass(frozen=True, slots=True)
class ChordLine:
    """A chord line that was read: its problems, and what it holds; with problems ``solo`` is the one it was read for.

    ``bars`` counts its bars, the pickup not among them.
    """

    problems: tuple[Problem, ...]
    solo: Solo
    bars: int


def read_chord_line(text: str, solo: Solo) -> ChordLine:
    """The solo with the chords, sections and length that a text gives it; its meters and pickup stay.

    Chords that stay where they were keep their names.
    """
    pickup, bars, problems = _bars_of(text, solo)
    if len(bars) > MOST_BARS:
        problems.append(Problem(0, len(text), f"These are {len(bars)} bars; a solo has at most {MOST_BARS}."))
    if problems:
        return ChordLine(tuple(problems), solo, len(bars))
    grid = _grid_of(solo, len(bars))
    events: list[tuple[Fraction, str]] = []
    sections: list[Section] = []
    if pickup is not None and grid[0].number == 0:
        problems += _place(pickup, grid[0], events)
    numbered = [bar for bar in grid if bar.number > 0]
    before: list[tuple[Fraction, str]] = []
    for written, bar in zip(bars, numbered, strict=False):
        if written.section is not None:
            sections.append(Section(bar.onset, written.section))
        if [slot.text for slot in written.slots] == ["%"]:
            if not events:
                problems.append(Problem(written.start, written.end, "There is no bar before to repeat."))
            # A bar of one chord simply goes on.
            mine = [(bar.onset + offset, name) for offset, name in before] if len(before) > 1 else []
        else:
            mine = []
            problems += _place(written, bar, mine, events[-1][1] if events else "")
            before = [(onset - bar.onset, name) for onset, name in mine]
        events += mine
    if problems:
        return ChordLine(tuple(problems), solo, len(bars))
    end = numbered[len(bars) - 1].end if bars else Fraction(0)
    changed = replace(solo, chords=_named(solo, events), sections=tuple(sections), form_end=end)
    return ChordLine((), changed, len(bars))


def write_chords_at(solo: Solo, time: Fraction, text: str) -> ChordLine:
    """The solo with chords written at a time: one goes to its beat, several share the rest of its bar from there on.

    Signs are those of a bar of the chord line.
    """
    bar = BarGrid(solo).at(time)
    origin = bar.onset - bar.lead_in
    beats = [origin + beat for beat in _beats_of(bar.meter, bar.lead_in, bar.length)] or [bar.onset]
    first = max((beat for beat in beats if beat <= time), default=beats[0])
    free = [beat for beat in beats if beat >= first]
    problems: list[Problem] = []
    unread = {event.text for event in solo.chords if isinstance(event.symbol, UnreadChord)}
    slots = [_slot(match.group(), match.start(), problems, unread) for match in re.finditer(r"\S+", text)]
    if "|" in text or "[" in text:
        problems = [Problem(0, len(text), "One bar at a time: the chord line has room for more.")]
    elif not slots:
        problems = [Problem(0, len(text), "No chord is written.")]
    elif len(slots) > len(free):
        problems = problems or [Problem(0, len(text), f"There are {len(slots)} chords for {len(free)} beats.")]
    if problems:
        return ChordLine(tuple(problems), solo, 1)
    end = first + Fraction(1, 10**6) if len(slots) == 1 else bar.end
    events = [(event.onset, event.text) for event in solo.chords if not first <= event.onset < end]
    for index, slot in enumerate(slots):
        onset = free[-(-index * len(free) // len(slots))]
        if slot is not None and slot.text not in ("/", "%", "-"):
            events.append((onset, slot.text))
    return ChordLine((), replace(solo, chords=_named(solo, sorted(events))), 1)


def _grid_of(solo: Solo, count: int) -> tuple[Bar, ...]:
    """The bars of the solo, at least ``count`` of them."""
    last = solo.meters[-1]
    end = last.onset + count * last.meter.bar_length
    return BarGrid(replace(solo, form_end=max(solo.end, end))).bars


def _bars_of(text: str, solo: Solo) -> tuple[_TextBar | None, list[_TextBar], list[Problem]]:
    """The text's pickup and bars as they stand in it, repeats written out."""
    problems: list[Problem] = []
    bars: list[_TextBar] = []
    has_pickup = bool(solo.pickup)
    # What came with an import and can't be read may stand as it is until somebody knows better.
    unread = {event.text for event in solo.chords if isinstance(event.symbol, UnreadChord)}
    pickup: _TextBar | None = None
    current: _TextBar | None = None
    section: str | None = None
    repeat_from: int | None = None
    seen_barline = False

    def close(at: int) -> None:
        nonlocal current, pickup, section
        if current is not None and current.slots:
            current.end = at
            if has_pickup and not seen_barline and not bars:
                pickup = current
            else:
                current.section, section = section, None
                bars.append(current)
        current = None

    for token in _TOKEN.finditer(text):
        word, start, end = token.group(), token.start(), token.end()
        if current is not None and "\n" in text[current.end : start]:
            close(current.end)
        if "|" in word and not word.startswith("["):
            close(start)
            seen_barline = True
            if word == "|:":
                repeat_from = len(bars)
            elif word == ":|":
                first = repeat_from if repeat_from is not None else 0
                if len(bars) == first:
                    problems.append(Problem(start, end, "There is nothing to repeat before this sign."))
                bars += [replace(bar, section=None) for bar in bars[first:]]
                repeat_from = None
        elif word.startswith("["):
            close(start)
            if not word.endswith("]"):
                problems.append(Problem(start, end, "A section's letter stands between [ and ]."))
            section = word.strip("[] ").strip()
        else:
            if current is None:
                current = _TextBar([], start=start)
            current.end = end
            slot = _slot(word, start, problems, unread)
            if slot is not None:
                current.slots.append(slot)
    close(len(text.rstrip()))
    if repeat_from is not None:
        problems.append(Problem(max(0, text.find("|:")), len(text), "This repeat has no end; close it with :|."))
    return pickup, bars, problems


def _slot(word: str, start: int, problems: list[Problem], unread: Collection[str] = ()) -> _Slot | None:
    place: Fraction | None = None
    match = _PLACE.fullmatch(word)
    symbol = match["symbol"] if match else word
    if match:
        part = Fraction(int(match["above"]), int(match["below"])) if match["above"] else Fraction(0)
        place = Fraction(match["beat"]) + part
    if symbol in ("-", "–"):
        return _Slot("-", place)
    if symbol in unread:
        return _Slot(symbol, place)
    try:
        read = parse_chord_symbol(symbol)
    except ChordSymbolError as error:
        problems.append(Problem(start, start + len(word), f"“{symbol}”: {error.why}."))
        return None
    if isinstance(read, RepeatChord):
        return _Slot("%" if symbol == "%" else "/", place)
    return _Slot(write_chord_symbol(read), place)


def _place(written: _TextBar, bar: Bar, events: list[tuple[Fraction, str]], going_on: str = "") -> list[Problem]:
    """Put a bar's chords on its beats. ``going_on`` is the chord that sounds before it."""
    beats = [beat.offset for beat in bar.meter.beats]
    shares = [beat for beat in beats if bar.lead_in <= beat < bar.lead_in + bar.length]
    free = [slot for slot in written.slots if slot.place is None]
    onsets = iter(_shared(shares, len(free), bar))
    origin = bar.onset - bar.lead_in
    placed: list[tuple[Fraction, str]] = []
    for slot in written.slots:
        if slot.place is not None:
            index = int(slot.place) - 1
            if not 0 <= index < len(beats) or not bar.lead_in <= _beat_time(bar, slot.place) < bar.lead_in + bar.length:
                return [Problem(written.start, written.end, f"Bar {bar.number} has no beat {_number(slot.place)}.")]
            onset = origin + _beat_time(bar, slot.place)
        else:
            onset = origin + next(onsets)
        if slot.text == "-":
            continue
        if slot.text in ("/", "%"):
            if not placed and not events and not going_on:
                return [Problem(written.start, written.end, "There is no chord before that could go on.")]
            continue
        placed.append((onset, slot.text))
    times = [onset for onset, _ in placed]
    if times != sorted(set(times)):
        return [Problem(written.start, written.end, f"The chords of bar {bar.number} are not in the order of beats.")]
    events += placed
    return []


def _beat_time(bar: Bar, place: Fraction) -> Fraction:
    """The offset in the meter of a place counted in beats from 1."""
    beats = bar.meter.beats
    index = min(int(place) - 1, len(beats) - 1)
    return beats[index].offset + (place - 1 - index) * beats[index].length


def _shared(beats: Sequence[Fraction], count: int, bar: Bar) -> list[Fraction]:
    """Where ``count`` chords of a bar begin: on strong beats where they fit, else earlier ones get the longer share."""
    strong = [beat.offset for beat in bar.meter.beats if beat.strong and beat.offset in beats]
    if count and count == len(strong):
        return strong
    if count <= len(beats):
        return [beats[-(-index * len(beats) // count)] for index in range(count)]
    first = beats[0] if beats else bar.lead_in
    return [first + bar.length * index / count for index in range(count)]


def _named(solo: Solo, events: Sequence[tuple[Fraction, str]]) -> tuple[ChordEvent, ...]:
    """Chords with their names: those that were there before keep theirs, so the page keeps its lines."""
    known = {event.onset: event for event in solo.chords}
    names = fresh_chord_ids(solo)
    named = []
    for onset, text in events:
        before = known.get(onset)
        if before is not None:
            named.append(before if before.text == text else replace(before, text=text))
            continue
        named.append(ChordEvent(next(names), onset, text))
    return tuple(named)


# -- writing --------------------------------------------------------------------------------------------


def write_chord_line(solo: Solo) -> str:
    """The text of a solo's chords: four bars a line, a line for each section, an empty line between choruses."""
    grid = BarGrid(solo)
    by_bar: dict[int, list[ChordEvent]] = {}
    for event in solo.chords:
        by_bar.setdefault(grid.index_at(event.onset), []).append(event)
    sections = {grid.index_at(section.onset): section.label for section in solo.sections}
    lines: list[str] = []
    cells: list[str] = []
    head = lead = ""
    several = False

    def end_line() -> None:
        nonlocal cells, head
        if cells:
            lines.append(f"{head}| " + " | ".join(cells) + " |")
        cells, head = [], ""

    for index, bar in enumerate(grid.bars):
        chords = by_bar.get(index, [])
        if bar.number == 0:
            lead = _cell(chords, bar, False)
            continue
        if index in sections or len(cells) == BARS_A_LINE:
            end_line()
        if bar.onset and solo.chorus and bar.onset % solo.chorus == 0:
            end_line()
            lines.append("")
        if index in sections:
            head = f"[{sections[index]}] "
        if chords:
            several = len(chords) > 1
            cells.append(_cell(chords, bar, solo.chords[0].onset < bar.onset))
        elif not solo.chords or solo.chords[0].onset >= bar.onset:
            cells.append("-")
        else:
            cells.append("/" if several else "%")
            several = False
    end_line()
    if lead:
        lines[0] = f"{lead} {lines[0]}"
    return "\n".join(lines)


def _cell(chords: Sequence[ChordEvent], bar: Bar, goes_on: bool) -> str:
    """A bar's chords: bare where sharing the beats puts them where they are, else with slashes or beats.

    ``goes_on`` says that a chord sounds when the bar begins.
    """
    if not chords:
        return ""
    if len(chords) == 1 and chords[0].onset == bar.onset and not bar.lead_in:
        return chords[0].text
    offsets = [chord.onset - bar.onset + bar.lead_in for chord in chords]
    names = [chord.text for chord in chords]
    beats = _beats_of(bar.meter, bar.lead_in, bar.length)
    if offsets == _shared(beats, len(chords), bar):
        return " ".join(names)
    if set(offsets) <= set(beats):
        at = dict(zip(offsets, names, strict=True))
        return " ".join(at.get(beat, "/" if goes_on or beat > offsets[0] else "-") for beat in beats)
    return " ".join(f"{name}@{_place_text(offset, bar)}" for name, offset in zip(names, offsets, strict=True))


@lru_cache(maxsize=256)
def _beats_of(meter: Meter, lead_in: Fraction, length: Fraction) -> tuple[Fraction, ...]:
    """The beats of a meter that a bar has."""
    return tuple(beat.offset for beat in meter.beats if lead_in <= beat.offset < lead_in + length)


def _place_text(offset: Fraction, bar: Bar) -> str:
    index, beat = bar.meter.beat_at(offset)
    return _number(index + 1 + (offset - beat.offset) / beat.length)


def _number(place: Fraction) -> str:
    whole, part = divmod(place, 1)
    if part == 0:
        return str(whole)
    if 1000 % part.denominator == 0:
        return f"{float(place):g}"
    return f"{whole}+{part}"


# -- completion -----------------------------------------------------------------------------------------

_KINDS = ("", "maj7", "6", "m7", "m6", "7", "9", "7b9", "13", "7alt", "m7b5", "dim7", "m", "7sus4", "mmaj7")
_BY_DEGREE = {
    "major": ("maj7", "m7", "m7", "maj7", "7", "m7", "m7b5"),
    "minor": ("m7", "m7b5", "maj7", "m7", "7", "maj7", "7"),
}


def completions(typed: str, solo: Solo) -> list[str]:
    """Chord symbols that a beginning could become: those of the solo, then those of its key, then any on that root."""
    if not typed:
        return []
    key = solo.keys[0].key
    known = list(dict.fromkeys(event.text for event in solo.chords))
    at_home = _diatonic(key)
    match = re.match(r"[A-G](?:#|b|♯|♭)?", typed)
    root = match.group().replace("♯", "#").replace("♭", "b") if match else ""
    anything = [root + kind for kind in _KINDS] if root else []
    plain = typed.replace("♯", "#").replace("♭", "b")
    every = dict.fromkeys(known + at_home + anything)
    return [symbol for symbol in every if symbol.startswith(plain) and symbol != plain]


def _diatonic(key: Key) -> list[str]:
    kinds = _BY_DEGREE["minor" if key.is_minor else "major"]
    names = Chord(key.tonic)
    degrees = ("1", "9", "b3", "11", "5", "b13", "b7") if key.is_minor else ("1", "9", "3", "11", "5", "13", "7")
    return [f"{names.name_of(degree)}{kind}" for degree, kind in zip(degrees, kinds, strict=True)]
