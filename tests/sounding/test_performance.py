"""What sounds: articulations of the soloist, the band's bass, chords and ride, grooves."""

from __future__ import annotations

from dataclasses import replace
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st
from tests.conftest import make_solo

from gavotte.demo.solos import bucket, ferry
from gavotte.solo.document import Solo
from gavotte.sounding.events import Sound, Voice
from gavotte.sounding.groove import Groove, groove_of, swing_of
from gavotte.sounding.performance import perform
from gavotte.theory.chord import Chord


def sounds(solo: Solo, voice: Voice) -> list[Sound]:
    performance, _ = perform(solo, Fraction(1))
    return [sound for sound in performance.sounds if sound.voice is voice]


def played(notes: str) -> list[Sound]:
    """How a bar at a quarter note a second is played."""
    return sounds(replace(make_solo([("C", notes)]), tempo=Fraction(60)), Voice.SOLO)


def test_notes_sound_at_their_pitch_and_time() -> None:
    found = played("C4/4 E4 G4/2")
    assert [(sound.key, sound.start) for sound in found] == [(60, 0), (64, 1), (67, 2)]
    assert found[2].end == pytest.approx(4, abs=0.05)


def test_staccato_is_short_and_tenuto_is_full() -> None:
    short, full, plain, _ = played("C4/4' D4{tenuto} E4 F4")
    assert short.end - short.start == pytest.approx(0.5)
    assert full.end - full.start == 1
    assert 0.9 < plain.end - plain.start < 1


def test_accents_are_louder_and_ghosts_softer() -> None:
    accented, plain, ghosted, _ = played("C4/4> D4 E4{ghost} F4")
    assert accented.loudness > plain.loudness > ghosted.loudness


def test_a_bend_rises_to_its_target_and_the_next_note_is_clean() -> None:
    bent, clean, _ = played("G4/4{bend:2} C4 D4/2")
    assert bent.key == 67
    assert bent.bends[0][1] == 0
    assert bent.bends[-1][1] == 2
    assert [semitones for _, semitones in bent.bends] == sorted(semitones for _, semitones in bent.bends)
    assert clean.bends == ()


def test_a_slide_starts_from_the_note_before() -> None:
    _, slid, _ = played("C4/4 F4{slide} G4/2")
    assert slid.bends[0] == (0, -5)
    assert slid.bends[-1][1] == 0


def test_a_fall_drops_at_its_end_and_a_scoop_comes_from_below() -> None:
    fallen, scooped, _ = played("C5/4{fall} C5{scoop} C5/2")
    assert fallen.bends[-1][1] < -2
    assert fallen.bends[0][0] > 0.4
    assert scooped.bends[0][1] == -1
    assert scooped.bends[-1][1] == 0


def test_a_slur_by_hammer_on_leaves_no_gap() -> None:
    first, second, *_ = played("C4/4 D4{hammer-on} E4 F4")
    assert first.end == second.start
    assert second.loudness < first.loudness


def test_grace_notes_come_before_their_note_one_after_another() -> None:
    one, two, main, _ = played("*A4 *B4 C5/2 D5/2")
    assert one.start < two.start < main.start == 0
    assert one.end == pytest.approx(two.start)


def test_a_trill_ends_on_its_note() -> None:
    found = played("C5/2{trill} D5/2")
    trill = [sound for sound in found if sound.start < 2]
    assert {sound.key for sound in trill} == {72, 74}
    assert trill[0].key == trill[-1].key == 72


def test_the_bass_has_the_root_wherever_a_chord_arrives() -> None:
    solo = ferry()
    performance, timeline = perform(solo)
    bass = {round(sound.start, 6): sound.key for sound in performance.sounds if sound.voice is Voice.BASS}
    before = None
    for event in solo.chords:
        if event.onset >= 0 and event.text != before:
            symbol = event.symbol
            assert isinstance(symbol, Chord)
            assert bass[round(timeline.seconds(event.onset), 6)] % 12 == symbol.root.pitch_class
        before = event.text


def test_chords_sound_their_telling_tones() -> None:
    solo = make_solo([("Dm7", "D4/1"), ("G7", "B4/1")])
    first = {sound.key % 12 for sound in sounds(solo, Voice.CHORDS) if sound.start < 1.5}
    assert {5, 0} <= first


def test_without_chords_only_solo_ride_and_click_sound() -> None:
    solo = replace(make_solo([("C", "C4/4 D4 E4 F4")]), chords=())
    voices = {sound.voice for sound in perform(solo)[0].sounds}
    assert voices == {Voice.SOLO, Voice.DRUMS, Voice.CLICK}


@pytest.mark.parametrize(
    ("meter", "style", "groove"),
    [
        ("4/4", "medium swing", Groove.SWING),
        ("4/4", "straight eighths", Groove.STRAIGHT),
        ("12/8", "slow blues", Groove.TWELVE_EIGHT),
        ("3/4", "", Groove.WALTZ),
        ("5/4", "modal", Groove.FIVE_FOUR),
    ],
)
def test_meter_and_style_make_the_groove(meter: str, style: str, groove: Groove) -> None:
    length = {"4/4": "1", "12/8": "1.", "3/4": "2.", "5/4": "1"}[meter]
    text = f"C4/{length}" if meter != "5/4" else "C4/1 D4/4"
    solo = replace(make_solo([("C7", text)] * 2, meter=meter), style=style)
    assert groove_of(solo) is groove
    performance, timeline = perform(solo)
    rides = [sound for sound in performance.sounds if sound.voice is Voice.DRUMS]
    assert len(rides) >= 2 * len(solo.meters[0].meter.beats)
    assert all(sound.start < timeline.seconds(timeline.end) for sound in performance.sounds)


def test_a_solos_own_swing_goes_before_the_style() -> None:
    assert swing_of(ferry()) > 1
    assert swing_of(replace(ferry(), swing=Fraction(1))) == 1


@given(st.sampled_from([ferry, bucket]), st.sampled_from([None, Fraction(1), Fraction(2)]))
def test_every_sound_has_length_and_a_key_that_exists(make: object, swing: Fraction | None) -> None:
    performance, _ = perform(make(), swing)  # type: ignore[operator]
    assert list(performance.sounds) == sorted(performance.sounds, key=lambda sound: sound.start)
    for sound in performance.sounds:
        assert sound.end > sound.start
        assert 0 <= sound.key <= 127
        assert 1 <= sound.loudness <= 127
