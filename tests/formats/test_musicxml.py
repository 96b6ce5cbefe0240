import io
import zipfile
from fractions import Fraction

import pytest

from gavotte.formats.errors import FormatError
from gavotte.formats.musicxml import Imported, open_score
from gavotte.formats.musicxml_write import write_musicxml
from gavotte.solo.document import Articulation
from gavotte.theory.chord import UnreadChord

HEAD = '<score-partwise version="4.0"><work><work-title>Bench Tune</work-title></work><part-list>'
FIRST = (
    "<attributes><divisions>{div}</divisions><key><fifths>{fifths}</fifths></key>"
    "<time><beats>4</beats><beat-type>4</beat-type></time>{extra}</attributes>"
)


def score(*bars: str, fifths: int = 0, div: int = 6, extra: str = "", name: str = "Lead", first: str = "") -> bytes:
    """A score of one part; each bar is the inside of a <measure>."""
    measures = "".join(
        f'<measure number="{i + (not first)}"{first if i == 0 else ""}>'
        f"{FIRST.format(div=div, fifths=fifths, extra=extra) if i == 0 else ''}{bar}</measure>"
        for i, bar in enumerate(bars)
    )
    return (
        f'{HEAD}<score-part id="P1"><part-name>{name}</part-name></score-part></part-list>'
        f'<part id="P1">{measures}</part></score-partwise>'
    ).encode()


def note(pitch: str, duration: int, inside: str = "", before: str = "", chord: bool = False, voice: str = "1") -> str:
    letter, alter, octave = pitch[0], pitch.count("#") - pitch[1:].count("b"), pitch[-1]
    return (
        f"<note>{'<chord/>' if chord else ''}{before}<pitch><step>{letter}</step><alter>{alter}</alter>"
        f"<octave>{octave}</octave></pitch>{f'<duration>{duration}</duration>' if duration else ''}"
        f"<voice>{voice}</voice>{inside}</note>"
    )


def rest(duration: int) -> str:
    return f"<note><rest/><duration>{duration}</duration></note>"


def harmony(root: str, kind: str, inside: str = "", alter: int = 0, text: str = "") -> str:
    return (
        f"<harmony><root><root-step>{root}</root-step><root-alter>{alter}</root-alter></root>"
        f'<kind text="{text}">{kind}</kind>{inside}</harmony>'
    )


def degree(value: int, alter: int, kind: str) -> str:
    return (
        f"<degree><degree-value>{value}</degree-value><degree-alter>{alter}</degree-alter>"
        f"<degree-type>{kind}</degree-type></degree>"
    )


def read(data: bytes) -> Imported:
    return open_score(data).solo()


def test_a_plain_line() -> None:
    solo = read(score(harmony("D", "minor-seventh") + note("D5", 6) + note("F5", 3) + rest(3) + note("Ab5", 12))).solo
    assert solo.title == "Bench Tune"
    assert [(n.onset, n.duration, str(n.pitch)) for n in solo.notes] == [
        (0, 1, "D5"),
        (1, Fraction(1, 2), "F5"),
        (2, 2, "Ab5"),
    ]
    assert [(c.onset, c.text) for c in solo.chords] == [(0, "Dm7")]


def test_ties_make_one_note_that_knows_how_it_was_written() -> None:
    start, stop = '<tie type="start"/>', '<tie type="stop"/>'
    solo = read(score(note("C5", 24, start), note("C5", 12, stop + start) + note("C5", 3, stop) + note("D5", 9))).solo
    assert [(n.onset, n.duration) for n in solo.notes] == [(0, Fraction(13, 2)), (Fraction(13, 2), Fraction(3, 2))]
    assert solo.notes[0].written == (4, 2, Fraction(1, 2))


def test_a_repeated_note_without_a_tie_stays_two() -> None:
    assert len(read(score(note("C5", 12) + note("C5", 12, '<tie type="stop"/>'))).solo.notes) == 2


def test_pickups_have_negative_onsets() -> None:
    solo = read(score(note("G4", 6), note("C5", 24), first=' implicit="yes"')).solo
    assert solo.pickup == 1
    assert [n.onset for n in solo.notes] == [-1, 0]


def test_triplets_are_exact() -> None:
    ratio = "<time-modification><actual-notes>3</actual-notes><normal-notes>2</normal-notes></time-modification>"
    solo = read(score("".join(note(p, 2, ratio) for p in ("C5", "D5", "E5")) + rest(18))).solo
    assert [n.onset for n in solo.notes] == [0, Fraction(1, 3), Fraction(2, 3)]
    assert solo.notes[0].tuplet is not None
    assert solo.notes[0].tuplet.actual == 3


def test_written_pitch_becomes_concert_pitch() -> None:
    transpose = "<transpose><diatonic>-1</diatonic><chromatic>-2</chromatic></transpose>"
    data = score(harmony("D", "dominant", alter=0) + note("F#5", 24), fifths=2, extra=transpose, name="Trumpet in Bb")
    solo = read(data).solo
    assert str(solo.notes[0].pitch) == "E5"
    assert solo.chords[0].text == "C7"
    assert str(solo.keys[0].key) == "C major"
    assert solo.instrument.name == "Trumpet"


def test_octave_transposition_without_diatonic_steps() -> None:
    transpose = "<transpose><chromatic>-9</chromatic><octave-change>-1</octave-change></transpose>"
    assert str(read(score(note("A5", 24), extra=transpose)).solo.notes[0].pitch) == "C4"


@pytest.mark.parametrize(
    ("kind", "inside", "text"),
    [
        ("major", "", "C"),
        ("half-diminished", "", "Cm7b5"),
        ("dominant-13th", "", "C13"),
        ("suspended-fourth", "", "Csus4"),
        ("dominant", degree(9, -1, "add") + degree(11, 1, "add"), "C7(b9,#11)"),
        ("major-minor", "", "Cm(maj7)"),
        ("suspended-fourth", degree(7, 0, "add"), "C7sus4"),
        ("dominant", degree(5, 1, "alter"), "C7#5"),
        ("dominant-ninth", degree(9, 1, "alter"), "C7#9"),
        ("major", degree(9, 0, "add"), "C(add9)"),
        ("dominant", degree(3, 0, "subtract"), "C7(no3)"),
        ("minor-seventh", degree(5, -1, "alter"), "Cm7b5"),
        ("major", "<bass><bass-step>E</bass-step></bass>", "C/E"),
        ("none", "", "N.C."),
        ("major-sixth", degree(9, 0, "add"), "C6/9"),
    ],
)
def test_harmonies(kind: str, inside: str, text: str) -> None:
    assert read(score(harmony("C", kind, inside) + note("C5", 24))).solo.chords[0].text == text


def test_a_strange_kind_is_read_by_its_text_or_reported() -> None:
    assert read(score(harmony("G", "other", text="7alt") + note("C5", 24))).solo.chords[0].text == "G7alt"
    imported = read(score(harmony("G", "Neapolitan") + note("C5", 24)))
    assert [chord.symbol for chord in imported.solo.chords] == [UnreadChord("GNeapolitan")]
    assert any("bar 1" in remark and "Neapolitan" in remark and "stays" in remark for remark in imported.remarks)
    again = read(write_musicxml(imported.solo))
    assert [chord.text for chord in again.solo.chords] == ["GNeapolitan"]


def test_pitches_between_semitones_are_rounded_marked_and_told() -> None:
    imported = read(score(note("C5", 6) + note("E5", 6).replace("<alter>0<", "<alter>-0.5<") + note("G5", 12)))
    assert [(str(n.pitch), n.uncertain) for n in imported.solo.notes] == [("C5", False), ("E5", True), ("G5", False)]
    assert any("1 note lies between two semitones" in remark for remark in imported.remarks)


def test_a_signature_of_thirty_flats_is_left_out_and_told() -> None:
    imported = read(score(note("C5", 24), fifths=-30))
    assert imported.solo.keys[0].key.fifths == 0
    assert any("-30 fifths was left out" in remark for remark in imported.remarks)


def test_harmony_offsets_count() -> None:
    data = score(harmony("C", "major") + harmony("G", "dominant", "<offset>12</offset>") + note("C5", 24))
    assert [(c.onset, c.text) for c in read(data).solo.chords] == [(0, "C"), (2, "G7")]


def test_articulations() -> None:
    marks = (
        "<notations><articulations><accent/><falloff/></articulations><technical><bend><bend-alter>1.5</bend-alter></bend>"
        '<hammer-on type="stop"/><hammer-on type="start"/></technical><slide type="start"/></notations>'
        '<notehead parentheses="yes">normal</notehead>'
    )
    played = read(score(note("C5", 24, marks))).solo.notes[0]
    assert {m.articulation for m in played.marks} == {
        Articulation.ACCENT,
        Articulation.FALL,
        Articulation.BEND,
        Articulation.HAMMER_ON,
        Articulation.SLIDE,
        Articulation.GHOST,
    }
    assert next(m.semitones for m in played.marks if m.articulation is Articulation.BEND) == Fraction(3, 2)


def test_grace_notes_take_no_time() -> None:
    solo = read(score(note("B4", 0, before="<grace/>") + note("C5", 24))).solo
    assert [(n.onset, n.duration, n.grace) for n in solo.notes] == [(0, 0, True), (0, 4, False)]


def test_the_likeliest_voice_comes_first_and_any_can_be_chosen() -> None:
    bar = (
        harmony("C", "major")
        + "".join(note(p, 6) for p in ("E5", "F5", "G5", "A5"))
        + "<backup><duration>24</duration></backup>"
        + note("C3", 24, voice="2")
    )
    opened = open_score(score(bar))
    assert [voice.voice for voice in opened.voices] == ["1", "2"]
    assert str(opened.solo(opened.voices[1]).solo.notes[0].pitch) == "C3"


def test_of_notes_struck_together_the_highest_is_the_line() -> None:
    imported = read(score(note("C5", 24) + note("E5", 24, chord=True) + note("G4", 24, chord=True)))
    assert [str(n.pitch) for n in imported.solo.notes] == ["E5"]
    assert any("2 notes" in remark for remark in imported.remarks)


def test_sections_and_tempo() -> None:
    directions = (
        "<direction><direction-type><rehearsal>B</rehearsal></direction-type></direction>"
        '<direction><sound tempo="132"/></direction>'
    )
    solo = read(score(directions + note("C5", 24))).solo
    assert [(s.onset, s.label) for s in solo.sections] == [(0, "B")]
    assert solo.tempo == 132


def test_zipped_files_and_timewise_scores() -> None:
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w") as archive:
        archive.writestr(
            "META-INF/container.xml", '<container><rootfiles><rootfile full-path="a.xml"/></rootfiles></container>'
        )
        archive.writestr("a.xml", score(note("C5", 24)))
    assert len(read(packed.getvalue()).solo.notes) == 1
    timewise = (
        '<score-timewise><part-list><score-part id="P1"><part-name/></score-part></part-list><measure number="1">'
        f'<part id="P1">{FIRST.format(div=6, fifths=0, extra="")}{note("C5", 24)}</part></measure></score-timewise>'
    )
    assert len(read(timewise.encode()).solo.notes) == 1


ENTITY = b'<!DOCTYPE x [<!ENTITY a "b">]><score-partwise/>'


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"hello", "no readable XML"),
        (score(note("C5", 24))[:-30], "cut off"),
        (b"<html/>", "not a score"),
        (b"PK\x03\x04broken", "can't be opened"),
        (ENTITY, "entities"),
        (b"<score-partwise/>", "no bars"),
        (score(rest(24)), "no pitched notes"),
        (score(note("C5", 24)).replace(b"<beats>4", b"<beats>x"), "rules"),
        (score(note("C5", 24)).replace(b"<beat-type>4", b"<beat-type>5"), "time signature"),
    ],
)
def test_bad_files_get_a_reason(data: bytes, words: str) -> None:
    with pytest.raises(FormatError, match=words):
        read(data)
