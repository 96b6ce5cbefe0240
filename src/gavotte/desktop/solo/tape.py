"""The tape: the recording of the open solo, with all that is known of it. The Listen desk asks it for edits."""

from __future__ import annotations

from collections.abc import Generator
from dataclasses import replace
from fractions import Fraction
from pathlib import Path
from typing import Any

from PyQt6.QtCore import QObject, pyqtSignal
from PyQt6.QtGui import QUndoCommand, QUndoStack

from gavotte.desktop.activity import Activities
from gavotte.desktop.solo.saver import Saver
from gavotte.desktop.translation import translate
from gavotte.formats.errors import FormatError
from gavotte.library.errors import LibraryError
from gavotte.library.recordings import DECODED, copied_into, file_of
from gavotte.library.store import Library
from gavotte.recording.beat_map import BeatMap
from gavotte.recording.decode import Decoded, decode
from gavotte.recording.errors import RecordingError
from gavotte.recording.recording import Recording
from gavotte.recording.waveform import Peaks, find_peaks
from gavotte.regular_file import is_regular
from gavotte.steps import scaled


class Tape(QObject):
    """The open solo's recording, and what is known of it, with undo.

    Signals: ``loaded`` (another recording, or none), ``changed`` (what is known of it), ``failed(message)``.
    """

    loaded = pyqtSignal()
    changed = pyqtSignal()
    failed = pyqtSignal(str)

    def __init__(self, library: Library, saver: Saver, activities: Activities, parent: QObject) -> None:
        super().__init__(parent)
        self._library, self._saver, self._activities = library, saver, activities
        self.solo_id: str | None = None
        self.recording: Recording | None = None
        self.decoded: Decoded | None = None
        self.peaks: Peaks | None = None
        self.missing: Path | None = None
        self.undo_stack = QUndoStack(self)

    # -- loading ------------------------------------------------------------------------------------

    def load(self, solo_id: str | None) -> None:
        """Take up a solo's recording, decoding it where that was not done yet."""
        if solo_id == self.solo_id and (self.decoded is not None or self.is_loading):
            return
        self.unload()
        self.solo_id = solo_id
        if solo_id is not None:
            try:
                self.recording = self._saver.recording(solo_id)
            except (LibraryError, FormatError) as error:
                self.failed.emit(str(error))
        if self.recording is not None:
            self._open_file(self.recording)
        self.loaded.emit()

    def found(self, solo_id: str) -> None:
        """A solo has a recording now that had none: take it up if it is the one that is held."""
        if solo_id == self.solo_id and self.recording is None:
            self.solo_id = None
            self.load(solo_id)

    def _open_file(self, recording: Recording) -> None:
        """Decode a recording's file, or see that it is missing."""
        path = file_of(self._library.folder, recording)
        if is_regular(path):
            self._decode(path, self._compare)
        else:
            self.missing = path

    def put_down(self) -> None:
        """Hold nothing, and say so."""
        self.unload()
        self.loaded.emit()

    def unload(self) -> None:
        """Hold nothing."""
        self._put_down()
        self.solo_id = None
        self.undo_stack.clear()

    def _put_down(self) -> None:
        self.cancel()
        self.recording = self.decoded = self.peaks = self.missing = None

    def take(self, path: Path, copy: bool) -> None:
        """Give the open solo a recording."""
        self.cancel()
        self._decode(path, lambda decoded: self._attach(path, decoded, copy))

    def find_at(self, path: Path) -> None:
        """A missing recording is here now."""
        recording = self.recording
        if recording is not None:
            self._put(replace(recording, path=str(path.resolve()), copied=False, name=path.name))
            self._decode(path, self._compare)

    def cancel(self) -> None:
        """Stop decoding."""
        self._activities.cancel(self)

    @property
    def is_loading(self) -> bool:
        """Whether a recording is being decoded."""
        return bool(self._activities.of(self))

    def _decode(self, path: Path, then: Any) -> None:
        folder = self._library.folder / DECODED

        def steps() -> Generator[float, None, tuple[Decoded, Peaks]]:
            decoded = yield from scaled(decode(path, folder), 0.0, 0.8)
            peaks = yield from scaled(find_peaks(decoded.samples()), 0.8, 1.0)
            return decoded, peaks

        def done(found: tuple[Decoded, Peaks]) -> None:
            self.decoded, self.peaks = found
            self.missing = None
            then(self.decoded)
            self.loaded.emit()
            if self.decoded.remarks:
                self.failed.emit(f"{path.name}: " + " ".join(self.decoded.remarks))

        self._activities.walk(
            self,
            steps,
            done,
            lambda error: self._not_read(path, error),
            translate("Gavotte", "Reading {name}").format(name=path.name),
            self.loaded.emit,
            apart=True,
        )

    def _not_read(self, path: Path, error: Exception) -> None:
        if isinstance(error, RecordingError):
            why = str(error)
        elif isinstance(error, OSError):
            why = f"{error.strerror or error}."
        else:
            why = repr(error)
        self.failed.emit(translate("Gavotte", "{name} can't be used. {reason}").format(name=path.name, reason=why))
        self.loaded.emit()

    def _compare(self, decoded: Decoded) -> None:
        recording = self.recording
        if recording is not None and recording.sha256 != decoded.sha256:
            self.failed.emit(
                translate("Gavotte", "{name} is another file than before. The beats may not fit any more.").format(
                    name=recording.name
                )
            )
            self._put(replace(recording, sha256=decoded.sha256, frames=decoded.frames))

    def _attach(self, path: Path, decoded: Decoded, copy: bool) -> None:
        before = self.recording
        plain = Recording(path.name, str(path.resolve()), False, decoded.sha256, decoded.frames)
        if before is not None and before.sha256 == decoded.sha256:
            plain = replace(before, name=path.name, path=plain.path, copied=False)
        self._put(plain)
        if before is not None and before.sha256 != plain.sha256:
            # The beats of the one before are somebody's work: they come back with it.
            self.undo_stack.push(_Exchange(self, translate("Gavotte", "Use another recording"), before, plain))
        elif before is None:
            self.undo_stack.clear()
        if copy and self.solo_id is not None:
            folder, solo_id = self._library.folder, self.solo_id
            self._activities.beside(
                # Copying goes on whatever becomes of the solo: it has an owner of its own.
                self._library,
                lambda: copied_into(folder, plain),
                lambda copied: self._copied(solo_id, copied),
                lambda error: self.failed.emit(str(error)),
                translate("Gavotte", "Copying {name}").format(name=path.name),
                apart=True,
            )

    def _copied(self, solo_id: str, copied: Recording) -> None:
        """Go over to the copy, whatever solo is open by now."""
        try:
            recording = self.recording if solo_id == self.solo_id else self._saver.recording(solo_id)
            if recording is None or recording.sha256 != copied.sha256:
                return
            changed = replace(recording, path=copied.path, copied=True)
            if solo_id == self.solo_id:
                self._put(changed)
            else:
                self._saver.save_recording(solo_id, changed)
        except (LibraryError, FormatError) as error:
            self.failed.emit(str(error))

    def remove(self) -> None:
        """Take the recording from the solo, as an undoable step; its file stays where it is."""
        before = self.recording
        if before is not None:
            self.undo_stack.push(_Exchange(self, translate("Gavotte", "Take the recording away"), before, None))

    def exchange(self, recording: Recording | None) -> None:
        """Go over to another recording of the solo, or to none (for undo steps)."""
        solo_id = self.solo_id
        if solo_id is None or recording == self.recording:
            return
        self._put_down()
        if recording is None:
            self._saver.save_recording(solo_id, None)
        else:
            self._put(recording)
            self._open_file(recording)
        self.loaded.emit()

    # -- edits --------------------------------------------------------------------------------------

    @property
    def beats(self) -> BeatMap:
        """The beat map."""
        return self.recording.beats if self.recording is not None else BeatMap()

    def edit_beats(self, text: str, beats: BeatMap) -> None:
        """Change the beat map, as an undoable step called ``text``."""
        if self.recording is not None and beats != self.recording.beats:
            self.undo_stack.push(_Step(self, text, self.recording.beats, beats))

    def put_beats(self, beats: BeatMap) -> None:
        """Take a beat map as the current one (for undo steps)."""
        if self.recording is not None:
            self._put(replace(self.recording, beats=beats))

    def keep(
        self,
        cents: float | None = None,
        loop: tuple[float, float] | None = None,
        swing: Fraction | None = None,
    ) -> None:
        """Remember the tuning, the last loop, and how much is swung."""
        recording = self.recording
        if recording is None:
            return
        changed = replace(
            recording,
            cents=recording.cents if cents is None else cents,
            loop=recording.loop if loop is None else loop,
            beats=recording.beats if swing is None else replace(recording.beats, swing=swing),
        )
        if changed != recording:
            self._put(changed)

    def _put(self, recording: Recording) -> None:
        self.recording = recording
        assert self.solo_id is not None
        self._saver.save_recording(self.solo_id, recording)
        self.changed.emit()


class _Step(QUndoCommand):
    """A change of the beat map as a pair of values."""

    def __init__(self, tape: Tape, text: str, before: BeatMap, after: BeatMap) -> None:
        super().__init__(text)
        self._tape, self._before, self._after = tape, before, after

    def redo(self) -> None:
        self._tape.put_beats(self._after)

    def undo(self) -> None:
        self._tape.put_beats(self._before)


class _Exchange(QUndoCommand):
    """One recording for another, or for none, with all that is known of each."""

    def __init__(self, tape: Tape, text: str, before: Recording | None, after: Recording | None) -> None:
        super().__init__(text)
        self._tape, self._before, self._after = tape, before, after

    def redo(self) -> None:
        self._tape.exchange(self._after)

    def undo(self) -> None:
        self._tape.exchange(self._before)
