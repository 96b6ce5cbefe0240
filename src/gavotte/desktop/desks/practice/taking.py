"""Takes from wherever they come: recorded while a run goes, judged, and kept with the item that was on the stand."""

from __future__ import annotations

import hashlib
import uuid
from collections.abc import Generator
from dataclasses import dataclass, replace
from pathlib import Path

import numpy as np
from numpy.typing import NDArray
from PyQt6.QtCore import QObject, pyqtSignal

from gavotte.desktop.desk.studio import Studio
from gavotte.desktop.desks.practice.agenda import Agenda, Chosen
from gavotte.desktop.desks.practice.recorder import Recorder
from gavotte.desktop.desks.practice.take_files import keep_sound, open_sound
from gavotte.desktop.desks.practice.take_panel import FromKeyboard
from gavotte.desktop.playback.microphone import CardMicrophone, Microphone, SimulatedMicrophone
from gavotte.desktop.playback.midi_keyboard import MidiKeyboard
from gavotte.desktop.translation import translate
from gavotte.library.errors import LibraryError
from gavotte.library.practising import FOLDER, KeptTake
from gavotte.library.recordings import DECODED
from gavotte.library.recordings import FOLDER as RECORDINGS
from gavotte.practice.as_played import written_place
from gavotte.practice.due import DueLine, due_line
from gavotte.practice.invented import Manner, improvised, invented_take
from gavotte.practice.own_solo import OwnSolo, own_solo
from gavotte.practice.run import Pass, Run
from gavotte.practice.take import AddedNote, Take
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.recording import Recording
from gavotte.sounding.synth import FluidSynth, SynthError, find_soundfont
from gavotte.sounding.timeline import DEFAULT_TEMPO
from gavotte.steps import whole


@dataclass(frozen=True)
class _Begun:
    """What a take is of: what was on the stand, the run, and the line that is to be played."""

    chosen: Chosen
    run: Run
    line: DueLine


class Taking(QObject):
    """``recorder`` records and judges; ``simulated`` and ``keyboard`` are what it can hear beside a microphone.

    Signals: ``begun``, a take is being recorded; ``passed(take)``, one pass of it was judged while
    it goes on; ``taken(take)``, it is judged (a KeptTake); ``kept(id, take)``, it is
    in the library, its sound too; ``soloed(solo)``, a free take over changes is written down.
    """

    begun = pyqtSignal()
    passed = pyqtSignal(object)
    soloed = pyqtSignal(object)
    taken = pyqtSignal(object)
    kept = pyqtSignal(str, object)

    def __init__(self, studio: Studio, agenda: Agenda, parent: QObject) -> None:
        super().__init__(parent)
        self._studio, self._agenda = studio, agenda
        self.recorder = Recorder(studio.library.folder / FOLDER, studio.activities, self)
        self.simulated = SimulatedMicrophone(self)
        self.keyboard = MidiKeyboard(self)
        self._begun: _Begun | None = None
        self._by_pass = False
        self.recorder.passed.connect(self._passed)
        self.recorder.taken.connect(self._taken)
        self.recorder.stopped.connect(self.keyboard.close)
        self.recorder.made.connect(self._made)
        self.recorder.failed.connect(studio.asks.notice)
        self.keyboard.failed.connect(studio.asks.notice)

    @property
    def is_silent(self) -> bool:
        """Whether no microphone is open, whatever is recorded."""
        return self.simulated.is_open or self.recorder.is_of_keys

    def begin(self, wanted: Manner | FromKeyboard | str, run: Run, by_pass: bool = False) -> None:
        """Record a take of a run: an invented one, one of a keyboard, or what a microphone (its name) hears; judged
        pass by pass where that is wished.
        """
        self._by_pass = by_pass and bool(run.shown.notes)
        if isinstance(wanted, Manner):
            self._invent(wanted, run)
        elif isinstance(wanted, FromKeyboard):
            if self.keyboard.open(wanted.name):
                self.hear(self.keyboard, run)
        else:
            self.hear(CardMicrophone(wanted, self), run)

    def _invent(self, manner: Manner, run: Run) -> None:
        """Have a take invented, and record it as if it were played."""
        transport = self._studio.transport
        swing, rate = transport.swing_used(run.shown), transport.speed
        seed = uuid.uuid4().int % 10_000
        played = run.played_notes() if run.shown.notes else improvised(run.shown, seed)

        def work() -> NDArray[np.int16]:
            synth = FluidSynth(find_soundfont())
            return whole(invented_take(played, swing, rate, manner, synth, seed))

        def begin(samples: NDArray[np.int16]) -> None:
            if not self.recorder.is_recording:
                self.simulated.prepare(samples)
                self.hear(self.simulated, run)

        def fail(error: Exception) -> None:
            if isinstance(error, SynthError):
                self._studio.asks.notice(str(error))

        words = translate("Gavotte", "Inventing a take")
        self._studio.activities.beside(self.simulated, work, begin, fail, words)

    def hear(self, source: Microphone | MidiKeyboard, run: Run) -> None:
        """Record what a source hears while the run goes."""
        line = self._of(run)
        if line is None:
            return
        tempo = self._asked_tempo(run)
        if not run.shown.notes:
            is_begun = self._begin_free(source, run, line, tempo)
        elif isinstance(source, MidiKeyboard):
            is_begun = self.recorder.begin_keys(source, line, tempo, self._by_pass)
        else:
            is_begun = self.recorder.begin(source, line, tempo, by_pass=self._by_pass)
        if is_begun:
            self._studio.transport.stop()
            self._studio.playing.play()
        self.begun.emit()

    def _begin_free(self, source: Microphone | MidiKeyboard, run: Run, line: DueLine, tempo: float) -> bool:
        """Record what is played over changes, to be written down."""
        if isinstance(source, MidiKeyboard):
            self._studio.asks.notice(
                translate(
                    "Gavotte", "Over changes a microphone is listened to. A keyboard’s solo is played in at Write."
                )
            )
            return False
        rate = self._studio.transport.rate

        def write(samples: NDArray[np.int16], start: float) -> Generator[float, None, object]:
            return own_solo(run, samples, start, rate)

        return self.recorder.begin(source, line, tempo, write)

    def _made(self, own: OwnSolo, path: Path, remarks: tuple[str, ...]) -> None:
        """A free take is written down: it is put on the shelf, its sound with it as its recording."""
        solo = own.solo
        for remark in remarks:
            self._studio.asks.notice(remark)
        self.soloed.emit(solo)
        if not solo.notes:
            path.unlink(missing_ok=True)
            return
        when = self._agenda.now()
        title = translate("Gavotte", "{name}, {day}").format(name=solo.title, day=f"{when:%d %b, %H:%M}")
        solo_id = self._studio.edits.keep_solo(replace(solo, title=title, player=""), self._agenda.undo_stack)
        if solo_id is None:
            return
        self._studio.asks.notice(
            translate("Gavotte", "What you played is on the shelf as “{title}”.").format(title=title),
            translate("Gavotte", "Look at it"),
            lambda: self._studio.asks.open_solo(solo_id),
            self._agenda.undo_stack.indexChanged,
        )
        recorded = self._studio.library.folder / RECORDINGS / f"{path.stem}.flac"
        keep_sound(
            self._studio.activities,
            self,
            path,
            recorded,
            lambda: self._save_recording(solo_id, title, recorded, own.beats),
            self._studio.asks.notice,
        )

    def _save_recording(self, solo_id: str, title: str, path: Path, beats: BeatMap) -> None:
        """The take's sound is the recording of the solo that was played in it."""

        def read() -> Recording:
            import soundfile

            frames, digest = soundfile.info(path).frames, hashlib.sha256(path.read_bytes()).hexdigest()
            return Recording(title, f"{RECORDINGS}/{path.name}", True, digest, frames, beats)

        def save(recording: Recording) -> None:
            try:
                self._studio.library.save_recording(solo_id, recording)
            except LibraryError as error:
                self._studio.asks.notice(str(error))

        self._studio.activities.beside(self, read, save, lambda error: self._studio.asks.notice(str(error)))

    def pass_over(self, one: Pass, start: float, end: float, tempo: float) -> None:
        """A pass of the run that is recorded is over: judge it by itself. The tempo in quarter notes a minute."""
        if self._begun is not None and self.recorder.is_recording:
            solo = self._begun.run.played_notes()
            notes = tuple(note for note in solo.notes if one.start <= note.onset < one.end)
            self.recorder.pass_over(due_line(replace(solo, notes=notes)), one.start, start, end, tempo)

    def _passed(self, line: DueLine, take: Take) -> None:
        if self._begun is not None:
            self._begun = replace(self._begun, line=line)
        self.passed.emit(take)

    def _of(self, run: Run) -> DueLine | None:
        """The line a take of a run is judged by; what it is of is kept in mind."""
        chosen = self._agenda.chosen
        if chosen is None:
            return None
        line = due_line(run.played_notes())
        self._begun = _Begun(chosen, run, line)
        return line

    def _asked_tempo(self, run: Run) -> float:
        return float(run.shown.tempo or DEFAULT_TEMPO) * self._studio.transport.speed

    def stop(self) -> None:
        """Stop recording; what was recorded is judged. One that is only being invented is not wanted any more."""
        self._studio.activities.cancel(self.simulated)
        if self.recorder.is_recording:
            self._studio.transport.stop()
            self.recorder.end()

    def gather(self) -> None:
        """Pack what was recorded when Gavotte was ended by force, and say where it lies."""
        words = translate(
            "Gavotte", "A take that was interrupted is kept as {file}. “A file…” beside the source judges it."
        )
        for path in sorted((self._studio.library.folder / FOLDER).glob("*.part")):
            packed = path.with_suffix(".flac")
            keep_sound(
                self._studio.activities,
                self,
                path,
                packed,
                lambda file=packed: self._studio.asks.notice(words.format(file=file)),  # type: ignore[misc]
                self._studio.asks.notice,
            )

    def close(self) -> None:
        """Let go of everything."""
        self.recorder.cancel()
        self.keyboard.close()

    def judge_file(self, path: Path, run: Run) -> None:
        """Judge the take in a sound file."""
        line = self._of(run)
        if line is None:
            return
        tempo, notice = self._asked_tempo(run), self._studio.asks.notice
        open_sound(
            self._studio.activities,
            self.recorder,
            path,
            self._studio.library.folder / DECODED,
            lambda samples: self.recorder.judge_file(samples, line, tempo),
            notice,
        )

    def _taken(self, take: Take, path: Path | None, remarks: tuple[str, ...]) -> None:
        """A take was judged: tell, and keep it."""
        for remark in remarks:
            self._studio.asks.notice(remark)
        begun = self._begun
        if begun is None:
            return
        (item_id, number), when = begun.chosen, self._agenda.now().isoformat(timespec="seconds")
        kept = KeptTake(item_id, number, when, begun.line.solo, without_loudspeaker(begun.run, begun.line, take))
        self.taken.emit(kept)
        if path is None:
            self._keep(kept)
            return
        name = f"{path.stem}.flac"
        keep_sound(
            self._studio.activities,
            self,
            path,
            path.with_name(name),
            lambda: self._keep(replace(kept, sound=name)),
            self._studio.asks.notice,
        )

    def _keep(self, kept: KeptTake) -> None:
        store = self._agenda.kept
        taken: list[str] = []

        def do() -> None:
            if taken:
                store.restore_take(taken[0])
            else:
                taken.append(store.add_take(kept))

        words = translate("Gavotte", "Keep a take")
        stack = self._agenda.undo_stack
        if self._studio.edits.step(words, do, lambda: store.delete_take(taken[0]), stack):
            self.kept.emit(taken[0], kept)


def without_loudspeaker(run: Run, line: DueLine, take: Take) -> Take:
    """The take without the notes that were played to the player where the run is to be listened to."""
    if all(one.is_played for one in run.passes) or not take.added:
        return take

    def is_played(extra: AddedNote) -> bool:
        place = written_place(line, take, extra.seconds)
        return place is None or run.passes[run.pass_at(place)].is_played

    return replace(take, added=tuple(extra for extra in take.added if is_played(extra)))
