"""What must not change a label: how a note is split, where the solo stands, how it is spelled, what was edited."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import DATA, make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.formats.passage import read_passages
from gavotte.labelling.labeller import label_solo, labelled
from gavotte.solo.document import ChordEvent, Function, Solo
from gavotte.solo.edits import with_decision, with_notes_moved
from gavotte.theory.pitch import spell

PASSAGES = [p.solo for p in read_passages((DATA / "passages.json").read_text(encoding="utf-8"))]
DEMOS = [make() for make in DEMO_SOLOS]
SOLOS = [*PASSAGES, *DEMOS]


def functions(solo: Solo) -> dict[str, str]:
    return {label.note: label.function for label in label_solo(solo)}


def changes_inside(solo: Solo, index: int) -> bool:
    note = solo.notes[index]
    return any(note.onset < chord.onset < note.end for chord in solo.chords)


@given(st.sampled_from(SOLOS), st.data())
@settings(max_examples=120)
def test_splitting_a_note_changes_no_neighbours_function(solo: Solo, data: st.DataObject) -> None:
    index = data.draw(st.integers(0, len(solo.notes) - 1))
    note = solo.notes[index]
    if note.grace or changes_inside(solo, index):
        return
    half = note.duration / 2
    first, second = replace(note, duration=half), replace(note, id="split", onset=note.onset + half, duration=half)
    split = replace(solo, notes=(*solo.notes[:index], first, second, *solo.notes[index + 1 :]))
    before, after = functions(solo), functions(split)
    assert {k: v for k, v in after.items() if k not in (note.id, "split")} == {
        k: v for k, v in before.items() if k != note.id
    }


@given(st.sampled_from(SOLOS), st.data())
@settings(max_examples=60)
def test_writing_a_note_as_tied_ones_changes_nothing(solo: Solo, data: st.DataObject) -> None:
    index = data.draw(st.integers(0, len(solo.notes) - 1))
    note = solo.notes[index]
    tied = replace(note, written=(note.duration / 3, 2 * note.duration / 3))
    assert label_solo(replace(solo, notes=(*solo.notes[:index], tied, *solo.notes[index + 1 :]))) == label_solo(solo)


@given(st.sampled_from(SOLOS), st.integers(0, 3), st.integers(0, 3))
@settings(max_examples=40)
def test_silence_at_the_ends_changes_no_label(solo: Solo, before: int, after: int) -> None:
    shift = before * solo.meters[0].meter.bar_length
    longer = replace(
        solo,
        pickup=solo.pickup if not before else Fraction(0),
        notes=tuple(replace(n, onset=n.onset + shift) for n in solo.notes),
        chords=tuple(replace(c, onset=c.onset + shift) for c in solo.chords),
        form_end=solo.end + shift + after * solo.meters[0].meter.bar_length,
    )
    said = [(x.function, x.device, x.degree, x.target) for x in label_solo(solo)]
    assert [(x.function, x.device, x.degree, x.target) for x in label_solo(longer)] == said


@given(st.sampled_from(SOLOS), st.randoms(use_true_random=False))
@settings(max_examples=60)
def test_spelling_pitches_otherwise_changes_no_label(solo: Solo, chance: object) -> None:
    fifths = [chance.choice((-5, 0, 5)) for _ in solo.notes]  # type: ignore[attr-defined]
    notes = tuple(replace(n, pitch=spell(n.pitch.midi, f)) for n, f in zip(solo.notes, fifths, strict=True))
    said = [(x.function, x.device, x.degree, x.target) for x in label_solo(solo)]
    assert [(x.function, x.device, x.degree, x.target) for x in label_solo(replace(solo, notes=notes))] == said


def edited(solo: Solo, kind: int, place: float) -> Solo:
    """The solo with one small edit at a place between 0 and 1."""
    i, c = int(place * (len(solo.notes) - 1)), int(place * (len(solo.chords) - 1))
    note = solo.notes[i]
    match kind:
        case 0:
            return with_notes_moved(solo, [note.id], 1)
        case 1 if len(solo.notes) > 2:
            return replace(solo, notes=(*solo.notes[:i], *solo.notes[i + 1 :]))
        case 2 if len(solo.chords) > 1:
            return replace(solo, chords=(*solo.chords[:c], *solo.chords[c + 1 :]))
        case 3:
            other = ChordEvent(solo.chords[c].id, solo.chords[c].onset, "Db7alt")
            return replace(solo, chords=(*solo.chords[:c], other, *solo.chords[c + 1 :]))
        case 4 if not note.grace:
            shorter = replace(note, duration=note.duration / 2)
            again = replace(shorter, id=f"{note.id}+", onset=note.onset + shorter.duration)
            return replace(solo, notes=(*solo.notes[:i], shorter, again, *solo.notes[i + 1 :]))
    return replace(solo, keys=(replace(solo.keys[0], blues=not solo.keys[0].blues), *solo.keys[1:]))


EDITS = st.lists(st.tuples(st.integers(0, 5), st.floats(0, 1)), min_size=1, max_size=5)


@given(st.sampled_from(SOLOS), EDITS, st.booleans())
@settings(max_examples=80)
def test_labelling_what_changed_gives_what_labelling_everything_does(
    solo: Solo, edits: list[tuple[int, float]], decided: bool
) -> None:
    if decided:
        for note in solo.notes[::5]:
            solo = with_decision(solo, note.id, Function.PASSING, "passing")
    known = labelled(solo)
    for kind, place in edits:
        solo = edited(solo, kind, place)
        known = labelled(solo, like=known)
        fresh = labelled(solo)
        assert known.labels == fresh.labels
        assert list(known.frame.notes) == list(fresh.frame.notes)
        assert known.costs == fresh.costs


def test_a_decided_note_leads_nowhere_over_a_rest() -> None:
    solo = make_solo([("C", "C5/4 E5 D5 r"), ("C", "C5/4 E5 G5/2")])
    solo = with_decision(solo, "n2", Function.PASSING, "passing")
    known = labelled(solo)
    assert known.labels[2].target is None
    without = replace(solo, notes=(*solo.notes[:3], *solo.notes[4:]))
    assert labelled(without, like=known).labels == labelled(without).labels
    inside = with_decision(make_solo([("C", "C5/4 E5 D5 C5"), ("C", "E5/1")]), "n2", Function.PASSING, "passing")
    assert labelled(inside).labels[2].target == "n3"


def test_a_chord_behind_the_last_note_can_be_asked_elsewhere() -> None:
    solo = make_solo([("C", "C5/4 Eb5 r/2"), ("G7", "r/1")])
    frame = labelled(solo).frame
    other, first, last = frame.with_span_at(1, Fraction(3), 4)
    assert (first, last) == (0, 2)
    assert [note.until_change for note in other.notes] == [3.0, 2.0]


def test_a_small_edit_labels_only_the_notes_about_it_anew() -> None:
    solo = DEMOS[0]
    known = labelled(solo)
    first, last = labelled(with_notes_moved(solo, [solo.notes[100].id], 1), like=known).frame.changed
    assert first <= 100 < last
    assert last - first < len(solo.notes) / 2


@pytest.mark.parametrize("solo", SOLOS, ids=lambda solo: solo.title[:20])
def test_what_is_said_of_a_note_fits_together(solo: Solo) -> None:
    found = labelled(solo)
    names = {note.id: note.pitch.shown for note in solo.notes}
    for note, label in zip(found.frame.notes, found.labels, strict=True):
        assert label.reason.startswith(names[label.note]) or label.reason.startswith("No chord")
        if label.target is not None:
            assert names[label.target] in label.reason
        assert (label.function == "chord" and label.device == "plain") == note.is_tone
        assert 0 < label.confidence <= 1
        kinds = [(label.function, label.device), *((a.function, a.device) for a in label.alternatives)]
        assert len(kinds) == len(set(kinds))
        assert len({a.reason for a in label.alternatives} | {label.reason}) == len(kinds)
        if label.device == "unexplained":
            assert label.in_doubt


def test_a_repeated_note_is_looked_past_by_what_is_about_it() -> None:
    once = label_solo(make_solo([("Cmaj7", "G4/8 F4/4 D#4/8 E4/2")]))
    assert once[2].device == "chromatic-below"
    plain = label_solo(make_solo([("Cmaj7", "C5/8 F5 D#5 E5 r/2")]))
    again = label_solo(make_solo([("Cmaj7", "C5/8 F5/16 F5 D#5/8 E5 r/2")]))
    assert [x.device for x in plain[1:3]] == ["enclosure", "enclosure"]
    assert [x.device for x in again[1:4]] == ["enclosure"] * 3
    assert {x.target for x in again[1:4]} == {"n4"}
