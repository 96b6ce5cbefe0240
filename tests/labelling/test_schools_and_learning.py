"""Schools: what each choice changes, how degrees are written, and what corrections teach."""

from __future__ import annotations

from dataclasses import replace
from pathlib import Path

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.document import SOLO_DOCUMENT
from gavotte.formats.errors import FormatError
from gavotte.labelling.answers import plain_ones, with_labels_taken
from gavotte.labelling.labeller import label_solo, labelled
from gavotte.labelling.learning import Evidence, changed_labels, evidence_of, offers
from gavotte.library.schools import FILE_NAME, keep_schools, own_schools, school_named, schools_in, take_in_schools
from gavotte.library.store import Library
from gavotte.solo.document import Function, Solo
from gavotte.solo.edits import with_decision
from gavotte.solo.school import CHOICES, KEY_CENTRED, LINEAR, SCHOOLS, VERTICAL, School
from gavotte.theory.degrees import DegreeNaming, shown_degree


def said(solo: Solo, school: School) -> list[str]:
    return [f"{label.function}/{label.device}" for label in label_solo(solo, school)]


@pytest.mark.parametrize(("choice", "value", "bars", "index", "before", "after"), [
    ("ninth_is_tone", True, [("Dm7", "D5/8 E5 F5 A5 D5/2")], 1, "passing/passing", "chord/plain"),
    ("sixth_is_tone", True, [("Cmaj7", "G4/8 A4 B4 C5 E5/2")], 1, "passing/passing", "chord/plain"),
    ("accents_are_colours", True, [("Dm7", "E5/8 D5 F5 A4 r/2")], 0, "passing/step", "extension/natural"),
    ("leaps_are_colours", True, [("Dm7", "A4/8 E5 D5 A4 r/2")], 1, "passing/step", "extension/natural"),
    ("names_structures", False, [("Dm7", "F4/8 A4 C5 E5 D5/2")], 3, "extension/natural", "passing/step"),
    ("flags_clashes", False, [("Cmaj7", "E4/4 G4 F5/2")], 2, "extension/clash", "extension/natural"),
])  # fmt: skip
def test_each_choice_changes_what_it_says(
    choice: str, value: bool, bars: list[tuple[str, str]], index: int, before: str, after: str
) -> None:
    solo = make_solo(bars)
    assert said(solo, LINEAR)[index] == before
    assert said(solo, LINEAR.with_choice(choice, value))[index] == after


def test_without_chord_tones_an_enclosure_needs_two_foreign_notes() -> None:
    solo = make_solo([("G7", "r/2. F5/8 D#5"), ("Cmaj7", "E5/1")])
    assert said(solo, LINEAR)[1] == "approach/enclosure"
    assert said(solo, LINEAR.with_choice("tones_enclose", False))[1] != "approach/enclosure"


def test_the_alterations_of_a_dominant_are_no_chord_tones_in_any_school() -> None:
    solo = make_solo([("G7b9", "B4/8 Ab4 A4 E5 r/2")])
    school = replace(LINEAR, sixth_is_tone=True, ninth_is_tone=True)
    assert [label.function for label in label_solo(solo, school)][1:3] != ["chord", "chord"]


def test_the_schools_that_ship_differ_and_a_solo_carries_its_own() -> None:
    assert len({school.name for school in SCHOOLS}) == len(SCHOOLS)
    solo = make_solo([("Dm7", "A4/2 r/2"), ("G7", "E5/4 D5/4 B4/2")])
    assert said(replace(solo, school=VERTICAL), VERTICAL) == [
        f"{label.function}/{label.device}" for label in label_solo(replace(solo, school=VERTICAL))
    ]
    again = SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(replace(solo, school=KEY_CENTRED)))
    assert again.school == KEY_CENTRED


@pytest.mark.parametrize(("naming", "names"), [
    (DegreeNaming(), {"9": "9", "#9": "♯9", "b13": "♭13", "#11": "♯11", "bb7": "°7", "13": "13"}),
    (DegreeNaming(compound=False), {"9": "2", "11": "4", "13": "6", "b9": "♭2", "#11": "♯4", "5": "5", "b7": "♭7"}),
    (DegreeNaming(sharp_ninth=False, flat_thirteenth=False), {"#9": "♭3", "b13": "♯5", "b9": "♭9"}),
    (DegreeNaming(sharp_eleventh=False, diminished_seventh=False), {"#11": "♭5", "bb7": "♭♭7"}),
])  # fmt: skip
def test_how_degrees_are_written(naming: DegreeNaming, names: dict[str, str]) -> None:
    assert {degree: shown_degree(degree, naming) for degree in names} == names


def test_naming_changes_what_is_shown_and_said_but_no_label() -> None:
    solo = make_solo([("G7", "B4/8 Bb4 D5 E5 F5/2")])
    school = replace(LINEAR, name="Mine", naming=DegreeNaming(compound=False, sharp_ninth=False))
    assert school.labels_like(LINEAR)
    before, after = label_solo(solo), label_solo(solo, school)
    assert [x.degree for x in before] == [x.degree for x in after]
    assert (before[1].shown_degree, after[1].shown_degree) == ("♯9", "♭3")
    assert "♭3 of G7" in after[1].reason
    assert labelled(solo, school, like=labelled(solo)).labels == after


# -- learning -------------------------------------------------------------------------------------------


def accents(corrected: int, left: int = 0) -> Solo:
    """Accented ninths over m7 chords, some of which the user calls colours and some passing."""
    bars = [("Dm7", "E5/8 D5 F5 A4 r/2") for _ in range(corrected + left)]
    solo = make_solo(bars)
    for k in range(corrected + left):
        function, device = (Function.EXTENSION, "natural") if k < corrected else (Function.PASSING, "step")
        solo = with_decision(solo, f"n{4 * k}", function, device)
    return solo


def test_corrections_that_point_one_way_are_offered_as_a_choice() -> None:
    found = labelled(accents(6, 1))
    assert evidence_of(found)["accents_are_colours"] == Evidence(6, 1)
    offer = offers(found, evidence_of(found))[0]
    assert offer.choice == "accents_are_colours"
    assert offer.school.accents_are_colours
    assert not found.frame.school.accents_are_colours, "nothing is changed without consent"


@pytest.mark.parametrize(("corrected", "left"), [(2, 0), (3, 3), (0, 5), (0, 0)])
def test_few_or_divided_corrections_teach_nothing(corrected: int, left: int) -> None:
    solo = accents(corrected, left) if corrected + left else make_solo([("Dm7", "E5/8 D5 F5 A4 r/2")])
    assert offers(labelled(solo), evidence_of(labelled(solo))) == []


def test_corrections_in_other_solos_of_the_school_count() -> None:
    found = labelled(accents(2))
    offer = offers(found, evidence_of(found), {"accents_are_colours": Evidence(2, 0)})[0]
    assert offer.evidence == Evidence(4, 0)


def test_what_a_choice_would_change_is_counted_without_what_the_user_decided() -> None:
    solo = make_solo([("Dm7", "E5/8 D5 F5 A4 r/2"), ("Dm7", "E5/8 D5 F5 A4 r/2")])
    found = labelled(solo)
    vertical = LINEAR.with_choice("accents_are_colours", True)
    assert changed_labels(found, vertical) == 2
    assert changed_labels(found, LINEAR) == 0
    decided = labelled(with_decision(solo, "n0", Function.PASSING, "step"))
    assert changed_labels(decided, vertical) == 1
    assert all(changed_labels(found, LINEAR.with_choice(c, not getattr(LINEAR, c))) >= 0 for c in CHOICES)


def test_taking_all_plain_labels_decides_only_those() -> None:
    solo = DEMO_SOLOS[0]()
    labels = label_solo(solo)
    plain = plain_ones(labels)
    taken = with_labels_taken(solo, plain)
    after = label_solo(taken)
    assert {x.note for x in after if x.decided} == {x.note for x in plain}
    assert all(x.function in ("chord", "passing") for x in plain)
    assert [(x.function, x.device) for x in after] == [(x.function, x.device) for x in labels]
    assert plain_ones(after) == []


# -- own schools ----------------------------------------------------------------------------------------


def test_own_schools_are_kept(library: Library, tmp_path: Path) -> None:
    assert own_schools(library) == ()
    mine = replace(VERTICAL, name="After the lesson", naming=DegreeNaming(compound=False))
    keep_schools(library, [mine])
    assert own_schools(library) == (mine,)
    assert schools_in(library.folder, tmp_path) == (mine,)
    assert school_named(" after THE lesson", [mine]) == mine
    assert school_named("vertical", [mine]) == VERTICAL
    assert school_named("nobody's", [mine]) is None


def test_a_damaged_file_of_schools_is_told(library: Library, tmp_path: Path) -> None:
    (tmp_path / FILE_NAME).write_text("{", encoding="utf-8")
    with pytest.raises(FormatError, match="damaged"):
        take_in_schools(library, tmp_path)
    with pytest.raises(FormatError, match="damaged"):
        schools_in(tmp_path / "nowhere", tmp_path)
