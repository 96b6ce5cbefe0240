"""What a sheet comes to for its readers."""

from __future__ import annotations

from dataclasses import replace

import pytest
from tests.conftest import DATA, make_solo, whole
from tests.sheets.test_sheet import LICK, SOLO, SOURCE, full_sheet

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.hand_out import bar_texts, heading_of
from gavotte.labelling.labeller import labelled
from gavotte.phrasing.structure import structure_of
from gavotte.sheets.composing import Composer, bar_indexes
from gavotte.sheets.elements import Composed, Drawing, Heading, Music, PageEnd, Paragraph, Style
from gavotte.sheets.music_beside import as_read, music_of
from gavotte.sheets.names import named_for
from gavotte.sheets.pieces import Bars, Keys, Licks, Piece, Question, Returns, Scales, Shown, Words
from gavotte.sheets.proposing import words_on_bars
from gavotte.sheets.scale_line import scale_line
from gavotte.sheets.sheet import SheetSource, TeachingSheet, Version
from gavotte.sheets.templates import (
    bars_piece,
    credit_of,
    credited,
    lick_of_the_week,
    one_key_a_page,
    players_over,
    solo_with_analysis,
)
from gavotte.sheets.versions import for_version, interval_of
from gavotte.solo.document import Function


def composed(sheet: TeachingSheet, version: Version | None = Version.CONCERT) -> Composed:
    found = whole(Composer().composed(sheet, version))
    assert isinstance(found, Composed)
    return found


def of(*pieces: Piece, version: Version | None = Version.CONCERT) -> list[object]:
    """The elements of a sheet with these pieces."""
    return list(composed(TeachingSheet("Sheet", pieces=pieces, sources=(SOURCE,)), version).elements)


def music_in(elements: list[object]) -> list[Music]:
    return [element for element in elements if isinstance(element, Music)]


def test_words_are_named_for_their_readers_paragraph_by_paragraph() -> None:
    piece = Words(id="w", heading="Over {G7}", words="First {C}\nof all.\n\n\n**Then** {Dm7}.")
    assert of(piece, version=Version.B_FLAT) == [
        Heading("Over A7"), Paragraph("First D of all."), Paragraph("**Then** Em7."),
    ]  # fmt: skip


def test_bars_are_those_that_were_asked_for_and_no_more() -> None:
    (music,) = music_in(of(Bars(id="b", source="src", first=2, last=3)))
    assert [bar.number for bar in music.solo_bars] == [2, 3]
    assert music.division is None
    assert music.skeleton is None
    assert set(music.labels) == {note.id for note in SOLO.notes}


def test_bars_that_are_not_there_are_said_so_in_their_place() -> None:
    elements = of(Bars(id="b", source="src", first=7, last=9))
    assert elements == [Paragraph("There are no bars 7 to 9: the solo ends with bar 3.", Style.CAPTION)]
    assert bar_indexes(SOLO, 2, 99) == (1, 3)


def test_reasons_are_numbered_once_and_told_under_the_bars() -> None:
    line = make_solo([("Dm7", "D5/8 E5 F5 E5 D5 G5 F5 E5"), ("G7", "D5/4 B4 G4/2")])
    sheet = TeachingSheet(
        "Reasons",
        pieces=(Bars(id="b", source="x", first=1, last=1, shown=Shown(reasons=True)),),
        sources=(SheetSource("x", "", line),),
    )
    music, *reasons = composed(sheet).elements
    assert isinstance(music, Music)
    told = [element.words for element in reasons if isinstance(element, Paragraph)]
    assert all(element.style is Style.REASON for element in reasons if isinstance(element, Paragraph))
    assert [text.split("  ")[0] for text in told] == [str(n) for n in range(1, len(told) + 1)]
    functions = {label.note: label.function for label in music.labels.values()}
    numbered = [note for note in line.notes[:8] if note.id in music.numbers]
    assert numbered
    assert all(functions[note.id] is not Function.CHORD for note in numbered)


def test_a_question_leaves_the_lane_blank_and_its_answer_stands_last() -> None:
    asked = Question(id="q", words="Which?", answer="That, over {G7}.", source="src", first=1, last=1)
    elements = of(asked, Words(id="w", words="Between."), version=Version.B_FLAT)
    assert elements[:2] == [Heading("Question 1"), Paragraph("Which?", Style.QUESTION)]
    blank, answer = music_in(elements)
    assert blank.blank
    assert not blank.shown.numerals
    assert not answer.blank
    at = elements.index(Heading("Answers"))
    assert isinstance(elements[at - 1], PageEnd)
    assert elements[at + 1] == Heading("Question 1", 2)
    assert elements[-1] == Paragraph("That, over A7.")
    assert elements.index(Paragraph("Between.")) < at


def test_questions_are_numbered_and_one_without_an_answer_has_none() -> None:
    elements = of(Question(id="1", words="One?"), Question(id="2", heading="Two", words="Two?", answer="2"))
    assert [e.words for e in elements if isinstance(e, Heading)] == [
        "Question 1", "Question 2: Two", "Answers", "Question 2",
    ]  # fmt: skip
    assert Heading("Answers") not in of(Question(id="1", words="One?"))


def test_licks_in_one_key_share_it_and_begin_lines_of_their_own() -> None:
    other = replace(LICK, name="Other")
    (music,) = music_in(of(Licks(id="l", licks=(LICK, other), in_one_key=True)))
    assert len({region.key for region in music.solo.keys}) == 1
    assert [section.label for section in music.solo.sections] == [LICK.name, "Other"]
    assert len(music.solo.notes) == 2 * len(LICK.solo.notes)
    assert not music.numbered


def test_keys_stand_under_one_another_or_a_page_each() -> None:
    (music,) = music_in(of(Keys(id="k", lick=LICK, count=12)))
    assert len({region.key.tonic.pitch_class for region in music.solo.keys}) == 12
    elements = of(Keys(id="k", lick=LICK, count=3, key_a_page=True))
    assert [type(element) for element in elements] == [Heading, Music, PageEnd, Heading, Music, PageEnd, Heading, Music]


def test_what_comes_back_is_laid_under_one_another_with_its_relation() -> None:
    places = ((SOLO.notes[0].id, SOLO.notes[2].id, ""), (SOLO.notes[8].id, SOLO.notes[10].id, "a third lower"))
    (music,) = music_in(of(Returns(id="r", source="src", places=places)))
    assert [section.label for section in music.solo.sections] == ["Bar 1", "Bar 2: a third lower"]
    gone = Returns(id="r", source="src", places=(("gone", "gone", ""),))
    assert [type(element) for element in of(gone)] == [Paragraph]


def test_the_chord_and_scale_line_goes_through_each_chord_once() -> None:
    solo = make_solo([("Dm7", "D5/1"), ("G7", "B4/1"), ("Dm7", "F5/1"), ("Cmaj7", "E5/1")])
    line, labels = scale_line(labelled(solo), solo.notes[0].onset, solo.notes[-1].end)
    assert [event.text for event in line.chords] == ["Dm7", "G7", "Cmaj7"]
    first = [str(note.pitch.name) for note in line.notes[:8]]
    assert first == ["D", "E", "F", "G", "A", "B", "C", "D"]
    shown = {label.note: label for label in labels}
    functions = [shown[note.id].function for note in line.notes[-8:]]
    assert functions[0] is functions[2] is functions[4] is functions[6] is Function.CHORD
    assert functions[1] is Function.EXTENSION
    assert functions[3] is Function.PASSING
    (music,) = music_in(of(Scales(id="s", source="src", first=1, last=3)))
    assert [event.text for event in music.solo.chords] == ["Dm7", "G7", "Cmaj7"]


def test_every_kind_of_piece_is_something_for_every_version() -> None:
    for version in (*Version, None):
        found = composed(full_sheet(), version)
        assert [part.piece for part in found.parts] == [*(piece.id for piece in full_sheet().pieces), "answers"]
        assert all(part.elements for part in found.parts)
        assert any(isinstance(element, Drawing) for element in found.elements)


def test_what_did_not_change_is_not_made_anew() -> None:
    composer, sheet = Composer(), full_sheet()
    before = whole(composer.composed(sheet, Version.CONCERT))
    after = whole(composer.composed(replace(sheet, title="Other", pieces=sheet.pieces[1:]), Version.CONCERT))
    kept = [next(part for part in found.parts if part.piece == "b") for found in (before, after)]
    assert kept[0] is kept[1]
    assert after.title == "Other"


# -- templates -------------------------------------------------------------------------------------------------


def test_the_analysis_tells_the_whole_solo_and_credits_it() -> None:
    solo = DEMO_SOLOS[0]()
    sheet = solo_with_analysis(structure_of(labelled(solo)), "id")
    kinds = [type(piece).__name__ for piece in sheet.pieces]
    assert kinds == ["Bars", "Bars", "Words", "Scales", "Words"]
    assert sheet.contents
    assert solo.player in sheet.rights
    phrases = sheet.pieces[2]
    assert isinstance(phrases, Words)
    assert phrases.words.count("**Phrase ") == len(structure_of(labelled(solo)).phrases)
    assert "{" in phrases.words
    assert credit_of(replace(solo, title="", player="")) == ""


def test_proposed_texts_read_as_if_they_were_said_in_the_readers_key() -> None:
    solo = DEMO_SOLOS[0]()
    sheet = solo_with_analysis(structure_of(labelled(solo)), "id")
    told = [element.words for element in composed(sheet, Version.B_FLAT).elements if isinstance(element, Paragraph)]
    first = next(text for text in told if text.startswith("**Bar 1 ·"))
    assert first.startswith("**Bar 1 · GΔ7 (I)**")
    assert not any("{" in text for text in told)


@pytest.mark.parametrize("version", [Version.E_FLAT, Version.F])
def test_proposed_texts_say_in_every_key_what_would_be_said_there(version: Version) -> None:
    for passage in read_passages((DATA / "passages.json").read_text(encoding="utf-8")):
        solo = passage.solo
        here = named_for(words_on_bars(labelled(solo), 0, 99), interval_of(solo, version))
        there = bar_texts(labelled(for_version(solo, version)))
        assert here.split("\n\n") == [f"**{heading_of(text)}** {text.words}" for text in there], passage.id


def test_a_lick_of_the_week_asks_and_goes_through_all_keys() -> None:
    sheet = lick_of_the_week(replace(LICK, words="My own words."))
    assert [type(piece).__name__ for piece in sheet.pieces] == ["Licks", "Words", "Scales", "Question", "Keys"]
    told = sheet.pieces[1]
    assert isinstance(told, Words)
    assert told.words.startswith("My own words.")
    assert len(music_in(list(composed(sheet).elements))) == 5


def test_one_key_a_page_has_twelve_pages() -> None:
    elements = composed(one_key_a_page(LICK)).elements
    assert sum(isinstance(element, PageEnd) for element in elements) == 11


def test_players_stand_under_one_another_and_are_told_one_by_one() -> None:
    others = [replace(LICK, source=replace(LICK.source, player=name)) for name in ("Ann", "Bo")]
    sheet = players_over(others, "long ii-V-I")
    assert sheet.title == "Two players over one long ii-V-I"
    headings = [element.words for element in composed(sheet).elements if isinstance(element, Heading)]
    assert headings[2:4] == ["Ann", "Bo"]
    with pytest.raises(ValueError, match="nothing"):
        players_over((), "V-I")


def test_words_are_named_as_the_music_beside_them_is() -> None:
    far = make_solo([("C#maj7", "C#5/4 E#5 G#5 B#5")], key="C# major")
    words = Words(id="w", words="Over {C♯Δ7}.")
    bars = Bars(id="b", source="x", first=1, last=1)
    sheet = TeachingSheet("Far", pieces=(words, bars), sources=(SheetSource("x", "", far),))
    text, music = composed(sheet, Version.B_FLAT).elements
    assert isinstance(text, Paragraph)
    assert isinstance(music, Music)
    assert text.words == "Over E♭Δ7."
    assert [event.text for event in music.solo.chords] == ["Ebmaj7"]


def test_the_first_music_brings_its_credit_and_a_line_of_ones_own_stays() -> None:
    solo = replace(SOLO, player="Ann", title="Hers")
    piece, source = bars_piece(solo, "s", solo.notes[0].onset, solo.notes[-1].end)
    empty = TeachingSheet("New", pieces=(Words(id="w"),))
    assert credited(empty, (piece,), (source,)).rights == "Transcribed from: Ann, Hers. For study."
    assert credited(replace(empty, rights="Mine"), (piece,), (source,)).rights == "Mine"
    assert credited(replace(empty, pieces=(piece,), sources=(source,)), (piece,), (source,)).rights == ""
    assert credited(empty, (Words(id="v"),), ()).rights == ""
    other = replace(LICK, source=replace(LICK.source, player="Bo", title="His"))
    assert "Bo, His" in credited(empty, (Keys(id="k", lick=other),), ()).rights


def test_a_selection_becomes_the_bars_it_sounds_in() -> None:
    piece, source = bars_piece(SOLO, "s", SOLO.notes[9].onset, SOLO.notes[12].end)
    assert (piece.first, piece.last) == (2, 2)
    assert source.solo is SOLO


# -- the files beside it ---------------------------------------------------------------------------------------


def test_the_music_beside_a_sheet_sounds_as_it_did() -> None:
    found = music_of(composed(full_sheet(), None))
    assert found is not None
    solo, labels = found
    first = [note.pitch.midi for note in solo.notes[:5]]
    assert first == [note.pitch.midi for note in SOLO.notes[:5]]
    assert {note.id for note in solo.notes} == set(labels)
    for version in Version:
        assert [n.pitch for n in as_read(solo, version).notes] == [n.pitch for n in solo.notes]
    assert as_read(solo, Version.B_FLAT).instrument.transposition_semitones % 12 == 10
    assert music_of(composed(TeachingSheet("Empty", pieces=(Words(id="w", words="x"),)), None)) is None
