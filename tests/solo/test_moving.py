"""Moving a solo in time and pitch: nothing that ought to move stays behind."""

from __future__ import annotations

from dataclasses import fields, is_dataclass, replace
from fractions import Fraction
from types import UnionType
from typing import Any, get_args, get_type_hints

import pytest
from tests.conftest import make_solo

from gavotte.solo.document import (
    ChordEvent,
    Dismissed,
    Instrument,
    KeyRegion,
    Reading,
    ReadingKind,
    Remark,
    Section,
    Solo,
    TempoChange,
    Text,
)
from gavotte.solo.moving import ROLES, Role, shifted, transposed
from gavotte.solo.school import School
from gavotte.theory.interval import Interval
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import Pitch, PitchName

NOT_TAKEN_APART = {Instrument, School, Meter, Key, Pitch, PitchName}
"""Values a solo holds whole."""


def parts_of(kind: Any) -> set[type]:
    """The dataclasses a type can hold."""
    inside = get_args(kind)
    if inside or isinstance(kind, UnionType):
        return {part for item in inside for part in parts_of(item)}
    return {kind} if is_dataclass(kind) and kind not in NOT_TAKEN_APART else set()  # type: ignore[comparison-overlap]


def reached_from(kind: type) -> set[type]:
    found, waiting = set(), {kind}
    while waiting:
        here = waiting.pop()
        found.add(here)
        for hint in get_type_hints(here).values():
            waiting |= parts_of(hint) - found
    return {kind for kind in found if kind.__name__ != "Tuplet"}


def test_every_field_of_a_solo_and_its_parts_says_whether_it_moves() -> None:
    assert reached_from(Solo) == set(ROLES)
    for kind, roles in ROLES.items():
        assert set(roles) == {field.name for field in fields(kind)}, kind.__name__


def test_parts_that_move_are_declared_as_such() -> None:
    for kind, roles in ROLES.items():
        for name, hint in get_type_hints(kind).items():
            moving = {
                part for part in parts_of(hint) & set(ROLES) if {Role.TIME, Role.PITCH} & set(ROLES[part].values())
            }
            assert (roles[name] is Role.PARTS) == bool(moving), f"{kind.__name__}.{name}"


@pytest.fixture
def full() -> Solo:
    """A solo that uses every part that moves."""
    solo = make_solo([("Dm7", "D5/4 F5 A5 C6"), ("G7", "B5/4 A5 G5 F5")])
    four = Fraction(4)
    reading = Reading("n0", "n3", ReadingKind.IMPLIED, PitchName("D"), "dorian", (ChordEvent("r", four, "Ebm7"),))
    return replace(
        solo,
        sections=(Section(four, "B"),),
        tempo_changes=(TempoChange(four, Fraction(90)),),
        texts=(Text(four, "softly"),),
        form_end=Fraction(8),
        heard_keys=(KeyRegion(Fraction(0), Key.parse("C major")), KeyRegion(four, Key.parse("G major"))),
        readings=(reading,),
        dismissed=(Dismissed("n1", 77),),
        remarks=(Remark(four, "here it opens"),),
    )


def test_shifting_moves_every_time_and_no_pitch(full: Solo) -> None:
    later = shifted(full, Fraction(12))
    assert [note.onset for note in later.notes] == [note.onset + 12 for note in full.notes]
    assert [note.pitch for note in later.notes] == [note.pitch for note in full.notes]
    assert later.readings[0].chords[0].onset == 16
    assert (later.form_end, later.texts[0].onset, later.remarks[0].onset, later.sections[0].onset) == (20, 16, 16, 16)
    assert shifted(later, Fraction(-12)) == full


def test_transposing_moves_every_pitch_and_no_time(full: Solo) -> None:
    higher = transposed(full, Interval(1, 2))
    assert [note.onset for note in higher.notes] == [note.onset for note in full.notes]
    assert [note.pitch.midi for note in higher.notes] == [note.pitch.midi + 2 for note in full.notes]
    assert [event.text for event in higher.chords] == ["Em7", "A7"]
    assert [str(region.key) for region in higher.heard_keys] == ["D major", "A major"]
    assert (higher.readings[0].tonic, higher.readings[0].chords[0].text) == (PitchName("E"), "Fm7")
    assert higher.dismissed == (Dismissed("n1", 79),)
    assert transposed(higher, Interval(-1, -2)) == full
