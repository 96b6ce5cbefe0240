"""The lead line and the draft of notes, on sounds whose notes are known."""

from __future__ import annotations

import numpy as np
import pytest
from benchmarks.players.lines import composed, played
from benchmarks.players.made import RECIPES, voice
from benchmarks.players.stage import mixed, roomy
from mir_eval.transcription import match_notes
from mir_eval.util import midi_to_hz
from numpy.typing import NDArray
from tests.conftest import whole

from gavotte.recording.draft import Player, find_draft, player_of
from gavotte.recording.lead import FRAME_SECONDS, Lead, find_lead
from gavotte.recording.player import RATE


def tone(pitches: NDArray[np.float64] | float, seconds: float) -> NDArray[np.float64]:
    """A plucked sound with ten partials; ``pitches`` may glide."""
    count = round(seconds * RATE)
    midi = np.interp(np.arange(count), np.linspace(0, count, np.size(pitches)), np.atleast_1d(pitches))
    phase = 2 * np.pi * np.cumsum(440 * 2 ** ((midi - 69) / 12)) / RATE
    sound = sum(np.sin(k * phase) * 0.75**k for k in range(1, 11))
    time = np.arange(count) / RATE
    return np.asarray(
        sound * np.minimum(1, time / 0.004) * np.exp(-1.2 * time) * np.minimum(1, (seconds - time) / 0.01)
    )


def recording(*parts: NDArray[np.float64]) -> NDArray[np.int16]:
    sound = np.concatenate([np.zeros(RATE // 2), *parts, np.zeros(RATE // 2)])
    return np.repeat((sound / max(1e-9, np.abs(sound).max()) * 20000).astype(np.int16)[:, None], 2, axis=1)


SCALE = (60, 64, 67, 71, 72, 69, 65, 62)


def test_a_plain_line_is_heard_note_by_note() -> None:
    sound = recording(*(tone(midi, 0.25) for midi in SCALE))
    draft = whole(find_draft(sound, Player(50, 84)))
    assert [note.midi for note in draft.notes] == list(SCALE)
    for k, note in enumerate(draft.notes):
        assert note.start == pytest.approx(0.5 + 0.25 * k, abs=0.05)
        assert note.end == pytest.approx(0.75 + 0.25 * k, abs=0.1)
        assert note.confidence > 0.5
        assert note.bend == 0
        assert all(midi != note.midi for midi, _ in note.others)


def test_repeated_notes_are_told_apart() -> None:
    draft = whole(find_draft(recording(*(tone(67, 0.3) for _ in range(4))), Player(50, 84)))
    assert [note.midi for note in draft.notes] == [67] * 4


def test_a_sharp_recording_is_heard_in_its_own_tuning() -> None:
    draft = whole(find_draft(recording(*(tone(midi + 0.4, 0.3) for midi in SCALE)), Player(50, 84)))
    assert draft.cents == pytest.approx(40, abs=8)
    assert [note.midi for note in draft.notes] == list(SCALE)


def test_a_bend_is_one_note_with_its_peak() -> None:
    bent = tone(np.array([66.0, 66.0, 67.0, 68.0, 68.0, 68.0, 68.0, 68.0]), 0.9)
    draft = whole(find_draft(recording(tone(61, 0.3), bent), Player(50, 84)))
    assert [note.midi for note in draft.notes] == [61, 66]
    assert draft.notes[1].bend == pytest.approx(2, abs=0.5)


def test_only_the_stretch_that_was_asked_for_is_drafted() -> None:
    sound = recording(*(tone(midi, 0.25) for midi in SCALE))
    draft = whole(find_draft(sound, Player(50, 84), 1.0, 2.0))
    assert [note.midi for note in draft.notes] == list(SCALE[2:6])
    assert all(1.0 - 0.06 <= note.start < 2.0 for note in draft.notes)


@pytest.mark.parametrize("length", [0, 10, RATE // 10, 2 * RATE])
def test_silence_and_next_to_nothing_give_no_notes(length: int) -> None:
    draft = whole(find_draft(np.zeros((length, 2), np.int16), Player(50, 84)))
    assert draft.notes == ()
    assert draft.cents == 0


def test_the_lead_line_follows_the_pitch_in_cents() -> None:
    sound = recording(tone(np.array([64.0, 64.0, 64.5, 65.0]), 1.5))
    lead = whole(find_lead(sound, 50, 84))
    assert lead.at(0.7) == pytest.approx(64.0, abs=0.15)
    assert lead.at(1.9) == pytest.approx(64.95, abs=0.2)
    assert lead.at(0.1) is None
    assert lead.at(99.0) is None
    assert lead.times[1] - lead.times[0] == pytest.approx(FRAME_SECONDS)
    frames = lead.between(0.6, 0.9)
    assert len(lead.midi[frames]) == pytest.approx(0.3 / FRAME_SECONDS, abs=2)


def test_a_line_without_a_voice_has_no_tuning() -> None:
    assert Lead(np.array([60.3, 61.3]), np.array([0.1, 0.2])).tuning() == 0.0
    assert Lead(np.array([60.3, 61.3]), np.array([0.9, 0.9])).tuning() == pytest.approx(30)


@pytest.mark.slow
@pytest.mark.parametrize(
    ("instrument", "recipe"),
    [
        ("Tenor saxophone", "reed"),
        ("Trombone", "low brass"),
        ("Flute", "flute"),
        ("Guitar", "plucked"),
        ("Bass", "bowed"),
    ],
)
def test_a_line_as_people_play_it_is_heard_in_a_room(instrument: str, recipe: str) -> None:
    """Slurs, scoops, bends up and back, breath, vibrato, slow attacks, unevenness, hiss."""
    take = played(composed(instrument, 132, 11, bends=instrument != "Bass"), 12)
    notes = [note for note in take.notes if note.start < 12]
    sound = mixed(roomy(voice(notes, RECIPES[recipe], 14, 1), 0.6, 0.2, 2), None, 0.0, seed=3)
    draft = whole(find_draft(sound, player_of(take.solo.instrument)))
    pairs = match_notes(
        np.array([[note.start, note.end] for note in notes]),
        midi_to_hz(np.array([note.midi for note in notes])),
        np.array([[note.start, note.end] for note in draft.notes]),
        midi_to_hz(np.array([note.midi for note in draft.notes])),
        onset_tolerance=0.05,
        offset_ratio=None,
    )
    assert 2 * len(pairs) / (len(notes) + len(draft.notes)) > 0.93
    doubtful = [note for index, note in enumerate(draft.notes) if index not in {found for _, found in pairs}]
    assert all(note.confidence < 0.99 for note in doubtful)
