"""What was sung, a bar labelled by hand, where an item is on its record, and the delay of a microphone."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import numpy as np
import pytest
from numpy.typing import NDArray
from tests.conftest import whole

from gavotte.demo.solos import DEMO_SOLOS
from gavotte.labelling.labeller import labelled
from gavotte.practice.item import Kind, PracticeItem
from gavotte.practice.label_lesson import bars_to_label, compared_with, one_of
from gavotte.practice.lessons import Lesson, questions_of
from gavotte.practice.on_record import on_record
from gavotte.practice.own_solo import beats_of
from gavotte.practice.singing import Sung, sung
from gavotte.recording.beat_map import Alignment
from gavotte.recording.delay import RATE, click_times, click_track, delay_of
from gavotte.recording.errors import RecordingError
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import Function
from gavotte.solo.moving import excerpt
from gavotte.sounding.timeline import Timeline
from gavotte.theory.scale import collection_pitch_classes


def tone(hertz: float, seconds: float) -> NDArray[np.float64]:
    times = np.arange(round(seconds * RATE)) / RATE
    wave = sum(np.sin(2 * np.pi * k * hertz * times) / k for k in range(1, 6))
    return np.asarray(0.2 * wave * np.minimum(1, np.minimum(times, seconds - times) / 0.05))


def stereo(mono: NDArray[np.float64]) -> NDArray[np.int16]:
    noisy = mono + np.random.default_rng(1).normal(0, 0.001, len(mono))
    return np.repeat(np.asarray(noisy * 32767, np.int16)[:, None], 2, axis=1)


# -- singing --------------------------------------------------------------------------------------------------


def test_the_note_that_is_held_longest_is_what_was_sung() -> None:
    sound = np.concatenate([np.zeros(8000), tone(330, 0.25), tone(440, 1.2), np.zeros(8000)])
    found = whole(sung(stereo(sound)))
    assert found is not None
    assert found.midi == pytest.approx(69, abs=0.1)
    assert found.is_on(69)
    assert found.is_on(57)
    assert not found.is_on(70)
    assert found.cents_from(68) == pytest.approx(100, abs=10)


def test_silence_and_noise_are_no_singing() -> None:
    assert whole(sung(stereo(np.zeros(RATE)))) is None
    assert whole(sung(stereo(np.zeros(0)))) is None
    hiss = np.random.default_rng(2).normal(0, 0.05, RATE)
    assert whole(sung(stereo(hiss))) is None


def test_a_quarter_tone_off_is_not_the_target() -> None:
    assert Sung(60.49, 1.0).is_on(60)
    assert not Sung(60.6, 1.0).is_on(60)
    assert Sung(71.7, 1.0).cents_from(60) == pytest.approx(-30)


# -- lessons --------------------------------------------------------------------------------------------------


def test_a_collection_holds_every_note_of_its_run_and_the_others_do_not() -> None:
    asked = [q for make in DEMO_SOLOS for q in questions_of(labelled(make()), Lesson.COLLECTION, 1)]
    assert len(asked) > 10
    for question in asked:
        symbol = question.whole.chords[0].symbol
        root = symbol.root.pitch_class  # type: ignore[union-attr]
        classes = {note.pitch.pitch_class for note in question.whole.notes}
        assert len(classes) >= 5
        for choice in question.choices:
            assert (classes <= collection_pitch_classes(choice, root)) == (choice == question.right)


def test_what_is_to_be_sung_is_the_note_that_is_not_heard() -> None:
    for question in questions_of(labelled(DEMO_SOLOS[0]()), Lesson.SING, 1):
        assert question.choices == ()
        assert question.target == question.whole.notes[-1].pitch.midi
        assert question.heard.notes == question.whole.notes[:-1]


def test_a_bar_to_label_has_its_notes_and_their_labels() -> None:
    found = labelled(DEMO_SOLOS[0]())
    bars = bars_to_label(found)
    assert len(bars) > 5
    by_note = {label.note: label for label in found.labels}
    for bar in bars:
        assert 3 <= len(bar.notes) == len(bar.labels) == len(bar.places) <= 8
        assert all(by_note[note.id] is label for note, label in zip(bar.notes, bar.labels, strict=True))
        assert len({label.function for label in bar.labels}) > 1
    assert one_of(bars, 3) in bars
    assert one_of([], 3) is None


def test_both_opinions_are_told_and_an_argument_for_the_other_where_there_is_one() -> None:
    bars = [bar for make in DEMO_SOLOS for bar in bars_to_label(labelled(make()))]
    agreed = compared_with(bars[0], [label.function for label in bars[0].labels])
    assert all(opinion.agrees for opinion in agreed)
    bar, number = next((b, k) for b in bars for k, label in enumerate(b.labels) if label.alternatives)
    other = bar.labels[number].alternatives[0]
    said = [label.function for label in bar.labels]
    said[number] = other.function
    opinion = compared_with(bar, said)[number]
    if other.function is not bar.labels[number].function:
        assert not opinion.agrees
        assert opinion.argument == other.reason
    with pytest.raises(ValueError, match="labels for"):
        compared_with(bar, [Function.CHORD])


# -- on the record --------------------------------------------------------------------------------------------


def test_an_item_is_found_on_the_record_of_its_solo() -> None:
    solo = DEMO_SOLOS[0]()
    alignment = Alignment(beats_of(Timeline(solo, Fraction(1)), 2.0), BarGrid(solo))
    first, last = solo.notes[10], solo.notes[18]
    item = PracticeItem("A phrase", Kind.PHRASE, excerpt(solo, first.id, last.id), 120)
    found = on_record(item, solo, alignment)
    assert found is not None
    assert found.onset == first.onset
    assert found.start == pytest.approx(alignment.seconds(first.onset), abs=0.06)
    assert found.end == pytest.approx(alignment.seconds(last.end), abs=0.2)
    assert found.tempo == pytest.approx(float(solo.tempo or 0), rel=0.01)
    without = replace(solo, notes=solo.notes[:12])
    assert on_record(item, without, alignment) is None
    changed = replace(solo, notes=tuple(
        replace(note, pitch=solo.notes[0].pitch) if note is solo.notes[12] else note for note in solo.notes
    ))  # fmt: skip
    assert (on_record(item, changed, alignment) is None) == (solo.notes[12].pitch.midi != solo.notes[0].pitch.midi)


# -- the delay ------------------------------------------------------------------------------------------------


def heard(
    late: float, jitter: float = 0.0, level: float = 1.0, noise: float = 0.002, start: float = 0.4
) -> NDArray[np.int16]:
    """The click track as a microphone has it that was opened ``start`` seconds before."""
    chance = np.random.default_rng(3)
    sound = np.zeros(round((click_times()[-1] + 1.5 + start) * RATE))
    click = click_track()[round(click_times()[0] * RATE) :][: round(0.02 * RATE), 0]
    for time in click_times():
        at = round((start + time + late + chance.uniform(-jitter, jitter)) * RATE)
        sound[at : at + len(click)] += level * click
    return np.asarray(np.clip(sound + chance.normal(0, noise, len(sound)), -1, 1) * 32767, np.int16)


@pytest.mark.parametrize("late", [0.0, 0.012, 0.085, 0.31])
@pytest.mark.parametrize("level", [1.0, 0.1])
def test_the_delay_of_clicks_is_measured(late: float, level: float) -> None:
    found = delay_of(heard(late, level=level), 0.4)
    assert found.seconds == pytest.approx(late, abs=0.003)
    assert found.scatter < 0.003


def test_claps_that_jitter_give_their_middle() -> None:
    found = delay_of(heard(0.06, jitter=0.03), 0.4)
    assert found.seconds == pytest.approx(0.06, abs=0.02)
    assert found.scatter > 0.003


def test_where_no_clicks_are_heard_it_is_said_what_to_do() -> None:
    with pytest.raises(RecordingError, match="near the loudspeaker"):
        delay_of(heard(0.05, level=0.0), 0.4)
    with pytest.raises(RecordingError, match="Only 0"):
        delay_of(np.zeros(0, np.int16), 0.0)
    with pytest.raises(RecordingError, match="something else"):
        delay_of(heard(0.15, jitter=0.14), 0.4)
