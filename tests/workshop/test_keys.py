from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from tests.conftest import make_solo

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.harmony.ground import ground_of
from gavotte.labelling.labeller import label_solo
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function, Instrument, KeyRegion, Solo
from gavotte.theory.key import Key
from gavotte.vocabulary.lick import Lick, keep_lick
from gavotte.workshop.keys import KeyOrder, in_all_keys, in_key, key_steps
from gavotte.workshop.sheet import key_sheet
from gavotte.writing.passages import phrases_of

LINE = [("Cm7 F7", "C5/8 Eb5 G5 Bb5 A5 Gb5 Eb5 C#5"), ("Bbmaj7", "D5/2 r/2")]


def lick(solo: Solo) -> Lick:
    return keep_lick(solo, "id", label_solo(solo), solo.notes[0].id, solo.notes[-1].id)


@pytest.mark.parametrize(
    ("order", "tonics"),
    [
        (KeyOrder.CIRCLE, "Bb Eb Ab Db Gb B E A D G C F"),
        (KeyOrder.CHROMATIC, "Bb B C Db D Eb E F Gb G Ab A"),
        (KeyOrder.WHOLE_STEPS, "Bb C D E Gb Ab B Db Eb F G A"),
        (KeyOrder.MINOR_THIRDS, "Bb Db E G B D F Ab C Eb Gb A"),
    ],
)
def test_twelve_keys_in_order(order: KeyOrder, tonics: str) -> None:
    keys = in_all_keys(make_solo(LINE, key="Bb major"), order)
    assert " ".join(str(item.key.tonic) for item in keys) == tonics


def test_keys_at_random_begin_with_the_own_one_and_the_seed_decides() -> None:
    orders = [key_steps(KeyOrder.RANDOM, seed) for seed in (1, 1, 2)]
    assert orders[0] == orders[1] != orders[2]
    assert all(order[0] == 0 and sorted(order) == list(range(12)) for order in orders)


@pytest.mark.parametrize("make", DEMO_SOLOS)
@pytest.mark.parametrize("tonic", range(12))
def test_every_key_moves_all_notes_alike_and_spells_them_simply(make: object, tonic: int) -> None:
    solo = make()  # type: ignore[operator]
    moved = in_key(solo, tonic).solo
    shifts = {b.pitch.midi - a.pitch.midi for a, b in zip(solo.notes, moved.notes, strict=True)}
    assert {(solo.keys[0].key.tonic.pitch_class + shift) % 12 for shift in shifts} == {tonic}
    for first, last in phrases_of(solo):
        # A phrase stays whole, whatever octave it needs.
        span = range(solo.places[first], solo.places[last] + 1)
        assert len({moved.notes[k].pitch.midi - solo.notes[k].pitch.midi for k in span}) == 1
    assert all(abs(note.pitch.alter) < 2 for note in moved.notes)
    old, new = label_solo(solo), label_solo(moved)
    assert [label.degree for label in old] == [label.degree for label in new]


def test_keys_stay_inside_the_instrument() -> None:
    narrow = Instrument("Whistle", lowest=68, highest=90)
    solo = replace(make_solo(LINE, key="Bb major"), instrument=narrow)
    for item in in_all_keys(solo):
        assert item.in_range == all(68 <= note.pitch.midi <= 90 for note in item.solo.notes)
        assert item.in_range
    too_narrow = replace(solo, instrument=Instrument("Tin", lowest=72, highest=76))
    assert not any(item.in_range for item in in_all_keys(too_narrow))


def test_the_lick_moves_as_little_as_it_can() -> None:
    solo = make_solo(LINE, key="Bb major")
    for item in in_all_keys(solo):
        assert abs(item.solo.notes[0].pitch.midi - solo.notes[0].pitch.midi) <= 6


def test_far_keys_are_spelled_for_reading() -> None:
    moved = in_key(make_solo([("Gb7", "Abb4/4 Gb4 Fb4 Ebb4")], key="Gb major"), 11)
    assert [str(note.pitch) for note in moved.solo.notes] == ["C5", "B4", "A4", "G4"]


@pytest.mark.parametrize(("first", "last"), [("n0", "n20"), ("n30", "n46")])
def test_the_sheet_holds_every_key_with_its_labels(first: str, last: str) -> None:
    source = DEMO_SOLOS[0]()
    kept = keep_lick(source, "id", label_solo(source), first, last)
    sheet, labels = key_sheet(kept)
    size = len(kept.solo.notes)
    assert len(sheet.notes) == len(labels) == 12 * size
    assert [label.note for label in labels] == [note.id for note in sheet.notes]
    assert [label.degree for label in labels] == [label.degree for label in kept.labels] * 12
    assert len({note.id for note in sheet.notes}) == 12 * size
    starts = {bar.onset for bar in BarGrid(sheet).bars}
    assert [section.onset in starts for section in sheet.sections] == [True] * 12
    assert sheet.sections[0].label == kept.solo.keys[0].key.shown
    assert [note.onset for note in sheet.notes] == sorted(note.onset for note in sheet.notes)


def test_the_sheet_says_where_the_instrument_ends() -> None:
    solo = replace(make_solo(LINE, key="Bb major"), instrument=Instrument("Tin", lowest=72, highest=76))
    sheet, _ = key_sheet(lick(solo))
    assert "beyond" in sheet.sections[0].label


def test_numerals_are_read_in_each_key_of_a_sheet() -> None:
    solo = make_solo([("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "E5/8 D5 B4 G4 F5 D5 B4 G4"), ("Cmaj7", "C5/1")])
    sheet, _ = key_sheet(lick(solo))
    assert [entry.numeral for entry in ground_of(sheet).numbered] == ["ii", "V", "I"] * 12
    starts = [entry.key for entry in ground_of(sheet).numbered][::3]
    assert [key.tonic.pitch_class for key in starts if key is not None] == [0, 5, 10, 3, 8, 1, 6, 11, 4, 9, 2, 7]


def test_a_lick_across_a_change_of_key_keeps_both_keys_in_every_key() -> None:
    home, away = "C5/8 E5 G5 E5 C5/2", "Eb5/8 G5 Bb5 G5 Eb5/2"
    solo = make_solo(
        [("Cmaj7", home), ("G7", "B4/1"), ("Cmaj7", home), ("Ebmaj7", away), ("Bb7", "D5/1"), ("Ebmaj7", away)]
    )
    changed = replace(solo, keys=(*solo.keys, KeyRegion(Fraction(12), Key.parse("Eb major"))))
    first = next(note.id for note in changed.notes if note.onset == 8)
    last = next(note.id for note in changed.notes if note.onset == 16)
    kept = keep_lick(changed, "s", label_solo(changed), first, last)
    assert [(region.onset, str(region.key)) for region in kept.solo.keys] == [(0, "C major"), (4, "Eb major")]
    assert [entry.numeral for entry in ground_of(kept.solo).numbered] == ["I", "I", "V"]
    sheet, _ = key_sheet(kept)
    assert [entry.numeral for entry in ground_of(sheet).numbered] == ["I", "I", "V"] * 12
    tonics = [region.key.tonic.pitch_class for region in sheet.keys]
    assert [(b - a) % 12 for a, b in zip(tonics[::2], tonics[1::2], strict=True)] == [3] * 12


def test_labels_name_the_chords_and_notes_of_their_own_key() -> None:
    solo = make_solo([("Dm7", "D5/8 F5 A5 C6 B5 A5 G5 F5"), ("G7", "E5/8 D5 B4 G4 F5 D5 B4 G4"), ("Cmaj7", "C5/1")])
    kept = lick(solo)
    sheet, labels = key_sheet(kept)
    size = len(kept.labels)
    assert labels[0].chord == "Dm7"
    assert [label.chord for label in labels[size : 2 * size]] == ["Gm7"] * 8 + ["C7"] * 8 + ["Fmaj7"]
    assert all(sheet.note(label.note).pitch.shown in label.reason for label in labels[size:])
    # What was decided where the lick was heard keeps its function, and claims nothing of another key.
    other = replace(kept.labels[3], function=Function.OUTSIDE, device="unexplained", reason="C is outside over Dm7.")
    decided = replace(kept, labels=(*kept.labels[:3], other, *kept.labels[4:]))
    _, labels = key_sheet(decided)
    assert labels[3].reason == "C is outside over Dm7."
    assert (labels[size + 3].function, labels[size + 3].chord) == (Function.OUTSIDE, "Gm7")
    assert labels[size + 3].reason == ""
