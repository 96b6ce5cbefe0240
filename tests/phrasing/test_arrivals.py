"""How phrases meet the changes of chord."""

from __future__ import annotations

from fractions import Fraction

from tests.conftest import make_solo

from gavotte.labelling.labeller import labelled
from gavotte.phrasing.arrivals import Meeting, arrival_lines, arrivals_of
from gavotte.phrasing.phrases import Phrase


def met(*bars: tuple[str, str]) -> list[tuple[Meeting, str, str, Fraction]]:
    """Of a line taken as one phrase: how each change is met, on which degree, from which, and how far off."""
    found = labelled(make_solo(bars))
    arrivals = arrivals_of(found, Phrase(0, len(found.solo.notes) - 1))
    return [(a.meeting, a.degree, a.degree_before, a.apart) for a in arrivals]


def test_a_seventh_falls_to_the_third_in_time() -> None:
    bars = ("Dm7", "D5/8 F5 A5 C6 A5 F5 D5 C5"), ("G7", "B4/4 D5/4 F5/2")
    assert met(*bars) == [(Meeting.IN_TIME, "3", "♭7", 0)]
    found = labelled(make_solo(bars))
    assert arrival_lines(found, Phrase(0, 10)) == (("Bar 2, G7", "B, the 3rd: ♭7 to 3, by a half step from above"),)


def test_a_note_can_come_early_late_or_be_held() -> None:
    early = met(("Dm7", "D5/4 F5/4 A5/4. B4/8~"), ("G7", "B4/2 G4/2"))
    assert early == [(Meeting.EARLY, "3", "5", Fraction(1, 2))]
    late = met(("Dm7", "D5/4 F5/4 A5/4 C5/4"), ("G7", "r/8 B4/8 D5/4 G4/2"))
    assert [(meeting, degree, apart) for meeting, degree, _, apart in late] == [(Meeting.LATE, "3", Fraction(1, 2))]
    held = met(("Dm7", "D5/4 A5/4 F5/2~"), ("G7", "F5/2 G4/2"))
    assert held == [(Meeting.HELD, "♭7", "", 2)]


def test_a_common_tone_is_told_as_one() -> None:
    found = labelled(make_solo([("Dm7", "D5/4 A5/4 C5/4 F5/4"), ("G7", "F5/4 D5/4 B4/2")]))
    assert arrival_lines(found, Phrase(0, 6)) == (("Bar 2, G7", "F, the ♭7: ♭3 to ♭7, by the same note"),)


def test_a_note_that_leads_on_says_where() -> None:
    found = labelled(make_solo([("Dm7", "D5/8 F5 A5 C6 A5 F5 D5 E5"), ("G7", "D#5/8 D5 B4 G4 D4/2")]))
    assert arrival_lines(found, Phrase(0, 12)) == (
        ("Bar 2, G7", "D♯, the ♭13 on its way to D: 9 to ♭13, by a half step from above"),
    )


def test_over_a_rest_nothing_is_met() -> None:
    assert met(("Dm7", "D5/4 F5/4 r/2"), ("G7", "r/2 B4/2"))[0] == (Meeting.REST, "", "", 0)
    found = labelled(make_solo([("Dm7", "D5/4 F5/4 r/2"), ("G7", "r/2 B4/2")]))
    assert arrival_lines(found, Phrase(0, 2)) == (("Bar 2, G7", "a rest"),)


def test_without_chords_there_are_no_changes() -> None:
    assert met(("", "D5/4 F5/4 A5/4 C5/4"), ("", "D5/1")) == []


def test_only_changes_while_the_phrase_lasts_are_its_own() -> None:
    found = labelled(make_solo([("Dm7", "D5/4 F5/4 A5/2"), ("G7", "r/1"), ("Cmaj7", "E5/1"), ("A7", "C#5/1")]))
    assert [a.span for a in arrivals_of(found, Phrase(0, 2))] == []
    assert [found.frame.spans[a.span].text for a in arrivals_of(found, Phrase(3, 4))] == ["Cmaj7", "A7"]
