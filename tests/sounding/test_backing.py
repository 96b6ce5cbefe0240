"""The band: bass lines, chords and drums as they are wished, the same for the same seed."""

from __future__ import annotations

import io
import itertools
from collections.abc import Sequence
from dataclasses import replace
from fractions import Fraction

import mido
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from tests.conftest import make_solo, whole

from gavotte.solo.document import KeyRegion, MeterRegion, Solo
from gavotte.sounding.backing import USUAL_BACKING, Backing, Feel, Intensity
from gavotte.sounding.bass import HIGHEST, LOWEST
from gavotte.sounding.engine import Engine
from gavotte.sounding.events import Performance, Sound, Voice
from gavotte.sounding.groove import Groove, groove_of, grooves_for, swing_of
from gavotte.sounding.midi_out import midi_of
from gavotte.sounding.performance import perform
from gavotte.sounding.rendering import rendered
from gavotte.sounding.synth import SAMPLE_RATE, SilentSynth
from gavotte.theory.chord import Chord
from gavotte.theory.key import Key
from gavotte.theory.meter import Meter
from gavotte.theory.pitch import PitchName
from gavotte.writing.chord_line import read_chord_line

FORM = "| Cmaj7 | A7 | Dm7 G7 | Em7 A7 |\n| Dm7 | G7 | Cmaj7 | % |"
SEEDS = range(8)


def changes(text: str = FORM, meter: str = "4/4", key: Key | None = None, style: str = "") -> Solo:
    empty = Solo(
        "",
        style=style,
        tempo=Fraction(120),
        keys=(KeyRegion(Fraction(0), key or Key(PitchName("C"))),),
        meters=(MeterRegion(Fraction(0), Meter.parse(meter)),),
        form_end=Meter.parse(meter).bar_length,
    )
    read = read_chord_line(text, empty)
    assert not read.problems
    return read.solo


def voice(sounds: Sequence[Sound], wanted: Voice) -> list[Sound]:
    return [sound for sound in sounds if sound.voice is wanted]


def band(solo: Solo, backing: Backing = USUAL_BACKING) -> tuple[Sound, ...]:
    return perform(solo, Fraction(1), backing=backing)[0].sounds


def arrivals(solo: Solo) -> list[tuple[float, int]]:
    """When the chords of a solo arrive (seconds at 120), and their roots."""
    return [
        (float(event.onset) / 2, event.symbol.root.pitch_class)
        for event in solo.chords
        if isinstance(event.symbol, Chord)
    ]


@pytest.mark.parametrize("feel", [Feel.STYLE, Feel.IN_TWO])
@pytest.mark.parametrize("seed", SEEDS)
def test_the_root_is_there_where_a_chord_arrives(feel: Feel, seed: int) -> None:
    solo = changes()
    bass = {round(s.start, 4): s.key for s in voice(band(solo, Backing(feel, seed=seed)), Voice.BASS)}
    for start, root in arrivals(solo):
        assert bass[round(start, 4)] % 12 == root
    assert all(LOWEST <= key <= HIGHEST for key in bass.values())


def test_a_walking_line_leads_into_the_next_root_mostly_by_step() -> None:
    ways = []
    for seed in range(20):
        keys = [s.key for s in voice(band(changes("| Dm7 | G7 | Cmaj7 | A7 |"), Backing(seed=seed)), Voice.BASS)]
        starts = [s.start for s in voice(band(changes("| Dm7 | G7 | Cmaj7 | A7 |"), Backing(seed=seed)), Voice.BASS)]
        for bar in (1, 2, 3):
            at = starts.index(pytest.approx(2.0 * bar))
            ways.append(abs(keys[at] - keys[at - 1]))
    assert all(1 <= way <= 7 for way in ways)
    assert sum(way <= 2 for way in ways) > 0.6 * len(ways)


def test_a_walking_line_hardly_leaps() -> None:
    leaps = []
    for seed in SEEDS:
        keys = [sound.key for sound in voice(band(changes(), Backing(seed=seed)), Voice.BASS)]
        leaps += [abs(after - before) for before, after in itertools.pairwise(keys)]
    assert sum(leap > 7 for leap in leaps) < 0.04 * len(leaps)
    assert sum(leap <= 2 for leap in leaps) > 0.5 * len(leaps)


def test_the_same_seed_gives_the_same_band_and_another_another() -> None:
    solo = changes()
    assert band(solo, Backing(seed=5)) == band(solo, Backing(seed=5))
    for part in (Voice.BASS, Voice.CHORDS, Voice.DRUMS):
        assert voice(band(solo, Backing(seed=5)), part) != voice(band(solo, Backing(seed=6)), part)


def test_each_chorus_is_another_one() -> None:
    twice = changes(f"{FORM}\n{FORM}")
    bass = voice(band(twice), Voice.BASS)
    half = [sound.key for sound in bass if sound.start < 16]
    assert half != [sound.key for sound in bass if sound.start >= 16]


def test_a_change_elsewhere_leaves_a_bars_rhythms_alone() -> None:
    one, other = changes("| C | F | G | C |"), changes("| C | F | Bb | C |")
    first = [(s.start, s.key) for s in voice(band(one), Voice.DRUMS)]
    assert first == [(s.start, s.key) for s in voice(band(other), Voice.DRUMS)]


def test_in_two_the_bass_has_about_two_notes_a_bar() -> None:
    solo = changes("| C | F | G | C |")
    assert len(voice(band(solo), Voice.BASS)) >= 16
    for seed in SEEDS:
        assert 8 <= len(voice(band(solo, Backing(Feel.IN_TWO, seed=seed)), Voice.BASS)) <= 12


@pytest.mark.parametrize(("feel", "above"), [(Feel.PEDAL_FIFTH, 7), (Feel.PEDAL_KEYNOTE, 0)])
def test_a_pedal_stays_on_its_note(feel: Feel, above: int) -> None:
    solo = changes(key=Key(PitchName.parse("Eb")))
    keys = {sound.key % 12 for sound in voice(band(solo, Backing(feel)), Voice.BASS)}
    assert keys == {(3 + above) % 12}


def test_a_drone_is_keynote_and_fifth_and_nothing_else_and_follows_the_key() -> None:
    solo = changes()
    solo = replace(solo, keys=(*solo.keys, KeyRegion(Fraction(16), Key(PitchName("D")))))
    sounds = band(solo, Backing(Feel.DRONE))
    assert {sound.voice for sound in sounds} == {Voice.CHORDS, Voice.CLICK}
    held = voice(sounds, Voice.CHORDS)
    assert {s.key % 12 for s in held if s.start == 0} == {0, 7}
    assert {s.key % 12 for s in held if s.start == 8} == {2, 9}
    assert {(s.start, s.end) for s in held} == {(0.0, 8.0), (8.0, 16.0)}


def test_whoever_begins_in_the_middle_of_a_drone_hears_it() -> None:
    class Told(SilentSynth):
        def __init__(self) -> None:
            self.keys: list[int] = []
            self.programs: dict[Voice, int] = {}

        def note_on(self, voice: Voice, key: int, loudness: int) -> None:
            if voice is Voice.CHORDS:
                self.keys.append(key)

        def program(self, program: int, voice: Voice = Voice.SOLO) -> None:
            self.programs[voice] = program

    synth = Told()
    engine = Engine(synth)
    performance, _ = perform(changes(), backing=Backing(Feel.DRONE))
    engine.start(performance, 5.0, performance.end)
    assert sorted(key % 12 for key in synth.keys) == [0, 0, 7]
    assert synth.programs[Voice.CHORDS] == performance.chords_program > 0
    assert perform(changes())[0].chords_program == 0
    engine.start(perform(changes())[0], 0.0, 1.0)
    assert synth.programs[Voice.CHORDS] == 0


def test_the_last_chord_is_held() -> None:
    solo = changes()
    sounds = band(solo, Backing(held_from=Fraction(24)))
    late = [s for s in sounds if s.start > 12.0 and s.voice is not Voice.CLICK]
    assert late == []
    held = [s for s in sounds if s.start == 12.0 and s.voice in (Voice.BASS, Voice.CHORDS)]
    assert {s.end for s in held} == {16.0}
    assert {s.key % 12 for s in held} >= {0, 4}
    assert all(s.end <= 16.0 for s in sounds)


def test_driving_is_more_and_louder_than_quiet_and_growing_goes_from_one_to_the_other() -> None:
    solo = changes(f"{FORM}\n{FORM}\n{FORM}")

    def hits(intensity: Intensity) -> list[Sound]:
        return [s for s in band(solo, Backing(intensity=intensity)) if s.voice in (Voice.DRUMS, Voice.CHORDS)]

    quiet, driving, growing = hits(Intensity.QUIET), hits(Intensity.DRIVING), hits(Intensity.GROWING)
    assert len(driving) > 1.2 * len(quiet)
    assert np.mean([s.loudness for s in driving]) > np.mean([s.loudness for s in quiet]) + 8
    assert [s for s in growing if s.start < 15] == [s for s in quiet if s.start < 15]
    assert [s for s in growing if s.start > 34] == [s for s in driving if s.start > 34]


@pytest.mark.parametrize("meter", ["4/4", "3/4", "5/4", "6/8", "12/8", "7/4", "2/4", "7/8"])
@pytest.mark.parametrize("style", ["", "ballad", "bossa", "straight"])
def test_every_change_is_heard_in_every_style(meter: str, style: str) -> None:
    solo = changes("| C | F7 | Bb | Eb7 |", meter, style=style)
    performance, timeline = perform(solo, Fraction(1))
    chords = voice(performance.sounds, Voice.CHORDS)
    for event in solo.chords:
        symbol = event.symbol
        assert isinstance(symbol, Chord)
        near = [s for s in chords if abs(s.start - timeline.seconds(event.onset)) <= timeline.seconds(Fraction(2))]
        telling = {(symbol.root.pitch_class + 4) % 12, (symbol.root.pitch_class + 10) % 12}
        assert telling & {s.key % 12 for s in near}
    bass = {round(s.start, 4) for s in voice(performance.sounds, Voice.BASS)}
    assert {round(timeline.seconds(event.onset), 4) for event in solo.chords} <= bass


@pytest.mark.parametrize(
    ("meter", "style", "groove"),
    [
        ("4/4", "slow ballad", Groove.BALLAD),
        ("4/4", "bossa nova", Groove.BOSSA),
        ("6/8", "", Groove.SIX_EIGHT),
        ("4/4", "6/8", Groove.SWING),
        ("3/4", "ballad", Groove.WALTZ),
    ],
)
def test_style_and_meter_make_the_groove(meter: str, style: str, groove: Groove) -> None:
    solo = changes("| C |", meter, style=style)
    assert groove_of(solo) is groove
    assert groove in grooves_for(solo.meters[0].meter)


def test_a_groove_put_as_the_style_is_that_groove() -> None:
    for meter in ("4/4", "3/4", "5/4", "6/8", "12/8"):
        for groove in grooves_for(Meter.parse(meter)):
            solo = changes("| C |", meter, style=str(groove))
            assert groove_of(solo) is groove
            assert swing_of(solo) >= 1


@given(st.integers(0, 9999), st.sampled_from(list(Feel)), st.sampled_from(list(Intensity)))
@settings(max_examples=30, deadline=None)
def test_every_sound_of_a_band_lies_in_the_music(seed: int, feel: Feel, intensity: Intensity) -> None:
    performance, _ = perform(changes(), backing=Backing(feel, intensity, seed))
    for sound in performance.sounds:
        assert performance.start <= sound.start < performance.end
        assert sound.start < sound.end
        assert 0 <= sound.key <= 127
        assert 1 <= sound.loudness <= 127


def test_without_chords_only_the_drums_play() -> None:
    solo = replace(make_solo([("C", "C4/4 D4 E4 F4")]), chords=(), notes=())
    assert {sound.voice for sound in band(solo)} == {Voice.DRUMS, Voice.CLICK}


# -- to take away ---------------------------------------------------------------------------------------------


def test_a_band_is_rendered_from_its_start_on_with_the_ring_behind_it() -> None:
    performance = Performance((Sound(Voice.BASS, 0.0, 0.5, 40, 90),), 0.0, 1.0)
    sound = whole(rendered(performance, SilentSynth(), {Voice.BASS: 1.0}, 2.0, 0.5, 0.25))
    assert sound.shape[1] == 2
    assert len(sound) / SAMPLE_RATE == pytest.approx(0.25 + 0.5 + 0.5, abs=0.11)


def test_a_band_as_midi_has_its_notes_at_their_times() -> None:
    solo = changes()
    performance, _ = perform(solo, Fraction(2))
    for rate in (1.0, 0.5):
        file = mido.MidiFile(file=io.BytesIO(midi_of(performance, solo, rate)))
        names = [track.name for track in file.tracks]
        assert names == ["", "Bass", "Chords", "Drums"]
        for part, track in zip((Voice.BASS, Voice.CHORDS, Voice.DRUMS), file.tracks[1:], strict=True):
            assert sum(m.type == "note_on" for m in track) == len(voice(performance.sounds, part))
        played = max(s.end for s in performance.sounds if s.voice is not Voice.CLICK)
        assert file.length == pytest.approx(played / rate, abs=0.01)
