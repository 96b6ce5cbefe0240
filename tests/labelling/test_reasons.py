"""Nothing a reason says is contradicted by the notes: every sentence is taken apart into claims, and each is tried."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import DATA, make_solo
from tests.labelling.claims import TEMPLATES, Ear, NoTemplateError, claims, names_given, reasons_of, template_of
from tests.labelling.lines import LINES, solo_of
from tests.random_solos import random_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import ChordEvent, Reading, ReadingKind, Solo
from gavotte.theory.pitch import PitchName

COMPOSED = [
    *(solo_of(line) for line in LINES),
    *(passage.solo for passage in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))),
    *(make() for make in DEMO_SOLOS),
]
BY_CHANCE = [random_solo(seed) for seed in range(120)]


def in_blues(solo: Solo) -> Solo:
    """The solo heard in A blues from its first note to its last."""
    reading = Reading(solo.notes[0].id, solo.notes[-1].id, ReadingKind.KEY_CENTRE, PitchName("A"), "blues")
    return replace(solo, readings=(reading,))


SOLOS = [*COMPOSED, *BY_CHANCE, *map(in_blues, BY_CHANCE[:20])]


def told(solo: Solo) -> Iterator[tuple[Ear, int, str, int | None]]:
    """Each reason of the solo, with the note it is about and the one it leads to."""
    ear, places = Ear(solo), solo.places
    for i, label in enumerate(label_solo(solo)):
        for reason, target in reasons_of(label):
            yield ear, i, reason, None if target is None else places[target]


@pytest.mark.parametrize("part", range(4))
def test_the_notes_bear_out_every_claim(part: int) -> None:
    wrong = [
        (solo.title, reason, claim)
        for solo in SOLOS[part::4]
        for ear, i, reason, target in told(solo)
        for claim, is_so in claims(ear, i, reason, target)
        if not is_so
    ]
    assert wrong == []


def test_every_template_is_said_somewhere() -> None:
    unread = replace(make_solo([("C", "C4/1")]), chords=(ChordEvent("c0", Fraction(0), "H7x"),))
    said = {template_of(reason)[0] for solo in [*SOLOS, unread] for _, _, reason, _ in told(solo)}
    assert said == set(TEMPLATES)


def test_one_pitch_has_one_name_over_a_chord() -> None:
    for solo in COMPOSED:
        names: dict[tuple[int, int], set[str]] = {}
        for i, label in enumerate(label_solo(solo)):
            if label.device != "anticipation":
                target = None if label.target is None else solo.places[label.target]
                for place, name in names_given(Ear(solo), i, label.reason, target):
                    names.setdefault(place, set()).add(name)
        assert [found for found in names.values() if len(found) > 1] == []


@pytest.mark.parametrize(
    ("right", "wrong", "claim"),
    [
        ("F♯ on", "G♭ on", "pitch"),
        ("beat 2", "beat 3", "beat"),
        ("slides", "leads", "short"),
        ("up", "down", "direction"),
        ("into G,", "into A,", "target"),
        ("3rd", "5th", "degree of the target"),
        ("E♭Δ7", "E♭7", "degree of the target"),
    ],
)
def test_a_false_claim_is_found(right: str, wrong: str, claim: str) -> None:
    solo = make_solo([("Ebmaj7", "Bb4/4 F#4/8 G4 Bb4/2")], key="Eb major")
    label = label_solo(solo)[1]
    false = label.reason.replace(right, wrong)
    assert false != label.reason
    assert [name for name, is_so in claims(Ear(solo), 1, false, 2) if not is_so] == [claim]


def test_an_unknown_sentence_is_found() -> None:
    with pytest.raises(NoTemplateError):
        template_of("F♯ on beat 2 sounds nice.")


def test_a_slash_chord_is_named_as_it_is_read() -> None:
    labels = label_solo(make_solo([("D/E", "E4/4 F#4/4 A4/2")], key="A major"))
    assert labels[1].reason.endswith("the 9 of E9sus4, written D/E.")


def test_a_spelled_diminished_chord_is_named_from_the_page() -> None:
    labels = label_solo(make_solo([("A7", "C#5/8 E5 G5 A#5 A5/2")], key="D major"))
    assert labels[3].implied == "A#dim7"
    assert "belongs to A♯°7" in labels[3].reason
    labels = label_solo(make_solo([("A7", "C#5/8 E5 G5 Bb5 A5/2")], key="D major"))
    assert labels[3].implied == "C#dim7"


def test_fourths_are_no_slip_of_the_pen() -> None:
    labels = label_solo(make_solo([("Cmaj7", "E4/8 G4 F#4 B4 E5 Bb4 Eb5 Ab5"), ("Cmaj7", "G5/1")]))
    assert all("slip of the pen" not in label.reason for label in labels[5:8])
    assert "fourths" in labels[5].reason


def test_only_what_is_short_slides() -> None:
    labels = label_solo(make_solo([("Cmaj7", "E4/4 G4/4 C5/4 D#4/4"), ("Cmaj7", "E4/1")]))
    assert "leads up a half step" in labels[3].reason


def test_a_note_that_steps_on_is_not_said_not_to() -> None:
    labels = label_solo(make_solo([("Cmaj7", "E4/8 G4 Bb4 C5 r/2")]))
    assert labels[2].reason == (
        "B♭ on beat 2 is neither in CΔ7 nor in its scale and goes on to C by more than the half step that would lead "
        "there; listen again, it may be a slip of the pen."
    )
