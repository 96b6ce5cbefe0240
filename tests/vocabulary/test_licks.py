from __future__ import annotations

from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Solo
from gavotte.vocabulary.harmony import chords_under, context, home_key
from gavotte.vocabulary.lick import LICK_DOCUMENT, Lick, keep_lick


def kept(solo: Solo, first: str = "n0", last: str = "") -> Lick:
    return keep_lick(solo, "id", label_solo(solo), first, last or solo.notes[-1].id)


TWO_FIVE = [("Dm7", "D5/8 F5 A5 C6 A5 F5 D5 C5"), ("G7", "B4/8 D5 F5 Ab5 G5 F5 F#5 Eb5"), ("Cmaj7", "E5/2 r/2")]


def test_a_lick_keeps_notes_chords_labels_and_source() -> None:
    lick = kept(make_solo(TWO_FIVE), "n8", "n16")
    assert len(lick.solo.notes) == len(lick.labels) == 9
    assert [c.text for c in lick.solo.chords] == ["G7", "Cmaj7"]
    assert lick.solo.notes[0].onset == 0
    assert lick.source.place == "bars 2–3"
    assert lick.labels[6].target == "n16"


def test_it_does_not_matter_which_end_is_named_first() -> None:
    solo = make_solo(TWO_FIVE)
    assert kept(solo, "n16", "n8") == kept(solo, "n8", "n16")


def test_documents_return_the_lick() -> None:
    lick = kept(DEMO_SOLOS[0](), "n4", "n20")
    assert LICK_DOCUMENT.read(LICK_DOCUMENT.write(lick)) == lick
    with pytest.raises(FormatError, match="damaged"):
        LICK_DOCUMENT.read(LICK_DOCUMENT.write(lick)[:-9])
    with pytest.raises(FormatError, match="no Gavotte lick"):
        LICK_DOCUMENT.read(b"{}")
    with pytest.raises(FormatError, match="newer"):
        LICK_DOCUMENT.read(LICK_DOCUMENT.write(lick).replace(b'"version":7', b'"version":99'))


@pytest.mark.parametrize(
    ("bars", "settings", "words"),
    [
        ([("Dm7", "D5/1"), ("G7", "B4/1"), ("Cmaj7", "C5/1")], {}, "long ii-V-I"),
        ([("Dm7 G7", "D5/2 B4/2"), ("Cmaj7", "C5/1")], {}, "short ii-V-I"),
        ([("Dm7b5 G7", "D5/2 B4/2"), ("Cm6", "C5/1")], {}, "short minor ii-V-i"),
        ([("Dm7", "D5/1"), ("G7", "B4/1")], {}, "long ii-V"),
        ([("G7", "B4/1"), ("Cmaj7", "C5/1")], {}, "V-I"),
        ([("C7", "E5/1"), ("F7", "A5/1")], {"blues": True}, "I7 to IV7"),
        ([("G7alt", "B4/1")], {}, "altered dominant"),
        ([("Dm7", "D5/1")], {}, "minor chord"),
        ([("Cmaj7 A7 Dm7 G7", "C5/4 E5 F5 G5")], {}, "turnaround I VI ii V"),
        ([("Cmaj7 Fm6 Em7 Eb7", "C5/4 Ab5 G5 G5")], {}, "I iv iii ♭III7"),
    ],
)
def test_harmonic_context_by_function(bars: list[tuple[str, str]], settings: dict[str, bool], words: str) -> None:
    assert context(make_solo(bars, **settings)) == words  # type: ignore[arg-type]


def test_names_tell_harmony_and_what_the_line_does() -> None:
    assert kept(make_solo(TWO_FIVE)).name == "Long ii-V-I: 1 ♭3 5 ♭7 up, enclosure of the 3rd, ♭9, ♭13 to 3"
    assert kept(make_solo([("C7", "C5/8 D5 E5 G5 r/2")])).name == "Dominant: 1 9 3 5 up"
    numerals = kept(make_solo([("Cm Ab Eb Bb", "C5/4 C5 Bb4 Bb4")], key="C minor")).name
    assert numerals.startswith("i ♭VI ♭III ♭VII"), "numerals keep their case"


def test_a_two_five_is_thought_in_the_key_it_leads_to() -> None:
    solo = make_solo([("Fm7", "Ab5/1"), ("Bb7", "D5/1"), ("Ebmaj7", "G5/1")], key="C minor")
    assert str(home_key(solo).key) == "Eb major"
    assert str(kept(solo).solo.keys[0].key) == "Eb major"
    assert str(home_key(make_solo([("Cm Ab", "C5/2 C5/2")], key="C minor")).key) == "C minor"


def test_chords_that_repeat_are_joined() -> None:
    stretches = chords_under(make_solo([("Dm7", "D5/1"), ("Dm7", "F5/1"), ("G7", "B4/1")]))
    assert [stretch.length for stretch in stretches[:1]] == [Fraction(8)]
