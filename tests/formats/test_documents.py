import json
from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import DATA

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.document import SOLO_DOCUMENT, DocumentKind
from gavotte.formats.errors import FormatError
from gavotte.formats.passage import read_passages, write_labelled, write_passages
from gavotte.labelling.labeller import label_solo
from gavotte.solo.document import Articulation, Mark, Note, Solo, Tuplet
from gavotte.solo.edits import with_decision
from gavotte.solo.label import Function
from gavotte.theory.pitch import LETTERS, Pitch

fractions = st.fractions(0, 16, max_denominator=48)
notes = st.builds(
    Note,
    st.text(min_size=1, max_size=4),
    fractions,
    fractions,
    st.builds(Pitch, st.sampled_from(LETTERS), st.integers(-2, 2), st.integers(1, 7)),
    written=st.lists(fractions, max_size=2).map(tuple),
    tuplet=st.none() | st.just(Tuplet(3, 2)),
    grace=st.booleans(),
    marks=st.lists(st.builds(Mark, st.sampled_from(Articulation), st.none() | fractions), max_size=2).map(tuple),
    uncertain=st.booleans(),
)


@given(st.lists(notes, max_size=5), st.text(max_size=20))
def test_documents_return_what_they_were_given(some: list[Note], title: str) -> None:
    possible = [
        replace(note, id=f"n{i}", duration=Fraction(0) if note.grace else max(note.duration, Fraction(1, 48)))
        for i, note in enumerate(sorted(some, key=lambda note: note.onset))
    ]
    solo = Solo(title=title, notes=tuple(possible), tempo=Fraction(121, 2))
    assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo


@pytest.mark.parametrize("make", DEMO_SOLOS)
def test_whole_solos_return_with_their_decisions(make: object) -> None:
    solo = with_decision(make(), "n5", Function.OUTSIDE, "unexplained")  # type: ignore[operator]
    assert SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(solo)) == solo


@pytest.mark.parametrize(
    ("change", "message"),
    [
        (lambda raw: {**raw, "version": 99}, "newer Gavotte"),
        (lambda raw: {**raw, "format": "something"}, "no Gavotte solo"),
        (lambda raw: {**raw, "solo": {}}, "damaged"),
        (lambda raw: [raw], "no Gavotte solo"),
    ],
)
def test_other_documents_are_refused(change: object, message: str) -> None:
    raw = json.loads(SOLO_DOCUMENT.write(DEMO_SOLOS[0]()))
    with pytest.raises(FormatError, match=message):
        SOLO_DOCUMENT.read(json.dumps(change(raw)).encode())  # type: ignore[operator]


def test_a_document_cut_short_is_refused() -> None:
    with pytest.raises(FormatError, match="damaged"):
        SOLO_DOCUMENT.read(SOLO_DOCUMENT.write(DEMO_SOLOS[0]())[:-40])


def test_labelled_passages_keep_their_other_members() -> None:
    text = (DATA / "passages.json").read_text(encoding="utf-8")
    passages = read_passages(text)
    written = json.loads(write_labelled((p, label_solo(p.solo)) for p in passages))
    for before, after in zip(json.loads(text), written, strict=True):
        assert {k: v for k, v in after.items() if k != "labels"} == {k: v for k, v in before.items() if k != "labels"}
        assert len(after["labels"]) == len(after["notes"])


GOOD = {"id": "x", "meter": "4/4", "key": "C major", "chords": [["0", "C"]], "notes": [["0", "1", "C4"]]}


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"meter": "4/5"}, ["x", "meter"]),
        ({"key": "Q"}, ["x", "key"]),
        ({"chords": [["0", " "]]}, ["chord 0", "nothing to read"]),
        ({"notes": [["0", "1", "C4"], ["1/0", "1", "D4"]]}, ["note 1"]),
        ({"notes": [["0", 0.5, "C4"]]}, ["exact"]),
        ({"notes": [["2", "1", "C4"], ["1", "1", "D4"]]}, ["note 1", "before"]),
        ({"notes": [["0", "-1", "C4"]]}, ["negative"]),
        ({"notes": [["0", "1"]]}, ["note 0"]),
        ({"notes": 7}, ["x"]),
    ],
)
def test_bad_passages_say_where(change: dict[str, object], words: list[str]) -> None:
    with pytest.raises(FormatError) as caught:
        read_passages(json.dumps([{**GOOD, **change}]))
    for word in words:
        assert word in str(caught.value)


@pytest.mark.parametrize("text", ["", "{", "3", '["a"]', '[{"id": "x"}]'])
def test_what_is_no_passage_file_is_refused(text: str) -> None:
    with pytest.raises(FormatError):
        read_passages(text)


def test_passages_are_written_as_they_are_read() -> None:
    passages = read_passages((DATA / "passages.json").read_text(encoding="utf-8"))
    again = read_passages(write_passages((p.id, p.solo) for p in passages))
    assert [(p.id, p.solo) for p in again] == [(p.id, p.solo) for p in passages]


def test_a_demo_solo_survives_as_a_passage_but_for_marks_and_graces() -> None:
    solo = DEMO_SOLOS[0]()
    again = read_passages(write_passages([("x", solo)]))[0].solo
    plain = [note for note in solo.notes if not note.grace]
    assert [(n.onset, n.duration, n.pitch) for n in again.notes] == [(n.onset, n.duration, n.pitch) for n in plain]
    assert [chord.text for chord in again.chords] == [chord.text for chord in solo.chords]


def test_documents_of_older_versions_are_brought_up_to_date() -> None:
    def renamed(raw: dict[str, object]) -> dict[str, object]:
        solo = dict(raw["solo"])  # type: ignore[call-overload]
        solo["title"] = solo.pop("name")
        return {**raw, "version": newest + 1, "solo": solo}

    newest = SOLO_DOCUMENT.version
    newer = DocumentKind("gavotte-solo", newest + 1, "solo", Solo, {newest: renamed})
    raw = json.loads(SOLO_DOCUMENT.write(DEMO_SOLOS[0]()))
    raw["solo"]["name"] = raw["solo"].pop("title")
    assert newer.read(json.dumps(raw).encode()) == DEMO_SOLOS[0]()
    with pytest.raises(FormatError, match="newer"):
        SOLO_DOCUMENT.read(newer.write(DEMO_SOLOS[0]()))


def test_a_document_from_before_tempo_changes_and_swing_reads_as_it_was() -> None:
    raw = json.loads(SOLO_DOCUMENT.write(DEMO_SOLOS[0]()))
    raw["version"] = 1
    del raw["solo"]["tempo_changes"], raw["solo"]["swing"]
    assert SOLO_DOCUMENT.read(json.dumps(raw).encode()) == DEMO_SOLOS[0]()
