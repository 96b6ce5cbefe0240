"""The order in which a score's bars are heard: repeats, endings, da capo, dal segno, coda and fine.

Rules of the usual notation (see E. Gould, *Behind Bars*, 2011, "Repeat signs"): a repeat goes back to the last forward
repeat, or to the start; after a da capo or dal segno repeats are not taken again, endings are the last ones, and
"to coda" and "fine" come into force.
"""

from __future__ import annotations

import re
import xml.etree.ElementTree as ET
from collections.abc import Sequence
from dataclasses import dataclass, field

MAX_HEARD = 4000
"""No solo is heard over more bars than this."""


@dataclass(frozen=True, slots=True)
class BarMarks:
    """What a bar says about what comes next. ``times`` is how often a backward repeat's stretch is heard."""

    forward: bool = False
    times: int = 0
    endings: frozenset[int] = frozenset()
    ending_stops: bool = False
    segno: str = ""
    coda: str = ""
    da_capo: bool = False
    dal_segno: str = ""
    to_coda: str = ""
    fine: bool = False

    @property
    def jumps(self) -> bool:
        """Whether the bar makes the order another one than it is written in."""
        return bool(self.times or self.endings or self.da_capo or self.dal_segno)


@dataclass
class _Found:
    forward: bool = False
    times: int = 0
    endings: set[int] = field(default_factory=set)
    ending_stops: bool = False
    words: dict[str, str] = field(default_factory=dict)


def marks_of(measures: Sequence[ET.Element]) -> BarMarks:
    """The marks of one bar, taken together over all parts."""
    found = _Found()
    for measure in measures:
        for barline in measure.findall("barline"):
            _read_barline(barline, found)
        for sound in measure.iter("sound"):
            for name in ("segno", "coda", "dacapo", "dalsegno", "tocoda", "fine"):
                value = sound.get(name)
                if value and value != "no":
                    found.words[name] = value
        for direction in measure.iter("direction-type"):
            _read_direction(direction, found)
    words = found.words
    return BarMarks(
        found.forward,
        found.times,
        frozenset(found.endings),
        found.ending_stops,
        words.get("segno", ""),
        words.get("coda", ""),
        "dacapo" in words,
        words.get("dalsegno", ""),
        words.get("tocoda", ""),
        "fine" in words,
    )


def _read_barline(barline: ET.Element, found: _Found) -> None:
    repeat = barline.find("repeat")
    if repeat is not None:
        if repeat.get("direction") == "forward":
            found.forward = True
        else:
            times = repeat.get("times") or ""
            found.times = max(found.times, min(int(times), 16) if times.isdigit() else 2)
    ending = barline.find("ending")
    if ending is not None:
        if ending.get("type") == "start":
            found.endings |= _numbers(ending.get("number") or "")
        else:
            found.ending_stops = True


def _numbers(text: str) -> set[int]:
    """The passes an ending is for: "1, 2", "1.", "1-3"."""
    numbers: set[int] = set()
    for first, last in re.findall(r"(\d+)(?:\s*-\s*(\d+))?", text):
        numbers |= set(range(int(first), min(int(last or first), int(first) + 16) + 1))
    return numbers or {1}


def _read_direction(direction: ET.Element, found: _Found) -> None:
    """Signs and words that are only written, without the sound that says the same."""
    for name in ("segno", "coda"):
        if direction.find(name) is not None:
            found.words.setdefault(name, name)
    text = " ".join((words.text or "").strip() for words in direction.findall("words")).lower()
    plain = re.sub(r"[^a-z ]", "", text).strip()
    if re.match(r"(d ?s|dal segno)\b", plain):
        found.words.setdefault("dalsegno", "segno")
    elif re.match(r"(d ?c|da capo)\b", plain):
        found.words.setdefault("dacapo", "yes")
    elif plain in ("to coda", "al coda"):
        found.words.setdefault("tocoda", "coda")
    elif plain == "fine":
        found.words.setdefault("fine", "yes")


def has_repeats(marks: Sequence[BarMarks]) -> bool:
    """Whether the bars are heard in another order than they are written in."""
    return any(mark.jumps for mark in marks)


def bar_order(marks: Sequence[BarMarks]) -> list[int]:
    """Indices of the bars in the order they are heard; at most MAX_HEARD of them.

    Where the marks contradict each other so that nothing would be heard, the order is the written one.
    """
    return _Reader(marks).order() or list(range(len(marks)))[:MAX_HEARD]


class _Reader:
    """Walks through the bars as a player does."""

    def __init__(self, marks: Sequence[BarMarks]) -> None:
        self.marks = marks
        self.endings = _ending_of_each(marks)
        self.jumped = False

    def order(self) -> list[int]:
        heard: list[int] = []
        here = start = 0
        turn = 1
        while 0 <= here < len(self.marks) and len(heard) < MAX_HEARD:
            mark = self.marks[here]
            if mark.forward and here != start:
                start, turn = here, 1
            endings = self.endings[here]
            if endings and turn not in endings and not (self.jumped and self._is_last_ending(here)):
                here += 1
                continue
            heard.append(here)
            if self.jumped and mark.fine:
                break
            if self.jumped and mark.to_coda:
                coda = self._coda_after(here)
                if coda is not None:
                    here, start, turn = coda, coda, 1
                    continue
            if mark.times and not self.jumped and turn < self._times(here):
                turn += 1
                here = start
                continue
            target = self._jump(mark)
            if target is not None:
                here, start = target, target
                # On the way back only the last endings count.
                turn = max((max(e) for e in self.endings if e), default=1)
                continue
            here += 1
            next_in_ending = here < len(self.marks) and bool(self.endings[here])
            if (mark.times or endings) and not next_in_ending:
                start, turn = here, 1
        return heard

    def _times(self, here: int) -> int:
        """How often the stretch that ends here is heard: at least as often as its endings say."""
        times = self.marks[here].times
        endings = self.endings[here]
        index, highest = here, max(endings, default=0)
        while index < len(self.marks) and self.endings[index]:
            highest = max(highest, *self.endings[index])
            index += 1
        return max(times, highest) if endings else times

    def _is_last_ending(self, here: int) -> bool:
        after = next((i for i in range(here, len(self.marks)) if self.endings[i] != self.endings[here]), None)
        return after is None or not self.endings[after]

    def _jump(self, mark: BarMarks) -> int | None:
        if self.jumped:
            return None
        if mark.da_capo:
            self.jumped = True
            return 0
        if mark.dal_segno:
            named = [i for i, m in enumerate(self.marks) if m.segno and m.segno == mark.dal_segno]
            signs = named or [i for i, m in enumerate(self.marks) if m.segno]
            if signs:
                self.jumped = True
                return signs[0]
        return None

    def _coda_after(self, here: int) -> int | None:
        wanted = self.marks[here].to_coda
        codas = [i for i in range(here + 1, len(self.marks)) if self.marks[i].coda]
        named = [i for i in codas if self.marks[i].coda == wanted]
        return next(iter(named or codas), None)


def _ending_of_each(marks: Sequence[BarMarks]) -> list[frozenset[int]]:
    """For each bar, the passes its ending is for; empty outside endings."""
    result: list[frozenset[int]] = []
    now: frozenset[int] = frozenset()
    for mark in marks:
        now = mark.endings or now
        result.append(now)
        if mark.ending_stops or mark.forward:
            now = frozenset() if not mark.forward or mark.ending_stops else now
    return result


def in_order(measures: Sequence[ET.Element], order: Sequence[int]) -> list[ET.Element]:
    """One part's bars in another order; after a jump a bar starts with the attributes in force where it stands."""
    in_force = _attributes_in_force(measures)
    result: list[ET.Element] = []
    last = -1
    for index in order:
        measure = measures[index]
        if index != last + 1 and in_force[index]:
            jumped = ET.Element(measure.tag, measure.attrib)
            attributes = ET.SubElement(jumped, "attributes")
            attributes.extend(in_force[index].values())
            jumped.extend(measure)
            measure = jumped
        result.append(measure)
        last = index
    return result


def _attributes_in_force(measures: Sequence[ET.Element]) -> list[dict[str, ET.Element]]:
    """For each bar, the members of <attributes> that hold as it starts."""
    now: dict[str, ET.Element] = {}
    result = []
    for measure in measures:
        result.append(dict(now))
        for attributes in measure.findall("attributes"):
            for member in attributes:
                if member.tag in ("divisions", "key", "time", "transpose"):
                    now[member.tag] = member
    return result
