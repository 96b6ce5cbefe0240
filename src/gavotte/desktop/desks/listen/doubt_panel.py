"""The doubtful note: what is sounding where a note is written, and what each pitch would be against its chord."""

from __future__ import annotations

from dataclasses import dataclass

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPainter, QPaintEvent
from PyQt6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.words import function_words
from gavotte.recording.evidence import CERTAIN, LIKELY, Candidate
from gavotte.solo.label import Label
from gavotte.theory.pitch import Pitch

_SHOWN, _LEAST_SHARE = 3, 0.02


@dataclass(frozen=True)
class Weighed:
    """A candidate with the name it would have here and its label."""

    candidate: Candidate
    pitch: Pitch
    label: Label | None

    @property
    def name(self) -> str:
        """The pitch as it is written."""
        return f"{self.pitch.shown}{self.pitch.octave}"


class DoubtPanel(QWidget):
    """The pitches a doubtful note could be, each with its share, and what can be done with it.

    Signals: ``hear_wanted(midi)``, ``recording_wanted``, ``write_wanted(midi)``.
    """

    hear_wanted = pyqtSignal(int)
    recording_wanted = pyqtSignal()
    write_wanted = pyqtSignal(int)

    def __init__(self) -> None:
        super().__init__()
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setFixedWidth(264)
        self._palette: Palette = DAY
        self._shown: tuple[str, int | None, list[Weighed]] | None = None
        self.title = QLabel()
        self.title.setObjectName("heading")
        self.verdict = QLabel()
        self.verdict.setWordWrap(True)
        self.recording = QPushButton(translate("Gavotte", "Hear the recording"))
        self.recording.setToolTip(translate("Gavotte", "Round and round this note in the recording"))
        self.recording.clicked.connect(self.recording_wanted)
        self._rows = QGridLayout()
        self._rows.setHorizontalSpacing(6)
        self._rows.setVerticalSpacing(4)
        column = QVBoxLayout(self)
        column.setContentsMargins(14, 10, 12, 10)
        column.setSpacing(8)
        column.addWidget(self.title)
        column.addWidget(self.verdict)
        column.addLayout(self._rows)
        foot = QHBoxLayout()
        foot.addWidget(self.recording)
        foot.addStretch(1)
        column.addLayout(foot)
        column.addStretch(1)
        self.hide()

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette
        if self._shown is not None and self.isVisibleTo(self.parentWidget()):
            self.show_note(*self._shown)

    def show_note(self, place: str, written: int | None, found: list[Weighed]) -> None:
        """Show what could stand where MIDI number ``written`` is written, or where nothing is."""
        self._shown = (place, written, found)
        self.title.setText(place[0].upper() + place[1:])
        self.verdict.setText(verdict(found))
        while self._rows.count():
            item = self._rows.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.setParent(None)
                widget.deleteLater()
        shown = found[:_SHOWN] + [w for w in found[_SHOWN:] if w.candidate.midi == written]
        for row, weighed in enumerate(shown):
            self._add(row, weighed, weighed.candidate.midi == written)
        self.show()

    def _add(self, row: int, weighed: Weighed, is_written: bool) -> None:
        midi = weighed.candidate.midi
        hear = QPushButton(weighed.name)
        hear.setToolTip(translate("Gavotte", "Hear {pitch}").format(pitch=weighed.name))
        hear.clicked.connect(lambda: self.hear_wanted.emit(midi))
        bar = _Share(weighed.candidate.share, self._palette)
        words = QLabel(_function_words(weighed.label))
        words.setObjectName("quiet")
        self._rows.addWidget(hear, 2 * row, 0)
        self._rows.addWidget(bar, 2 * row, 1)
        self._rows.addWidget(words, 2 * row + 1, 0, 1, 2)
        if is_written:
            mark = QLabel(translate("Gavotte", "written"))
            mark.setObjectName("quiet")
            self._rows.addWidget(mark, 2 * row, 2)
        else:
            write = QPushButton(translate("Gavotte", "Write it"))
            write.setToolTip(translate("Gavotte", "Write {pitch} here").format(pitch=weighed.name))
            write.clicked.connect(lambda: self.write_wanted.emit(midi))
            self._rows.addWidget(write, 2 * row, 2)


class _Share(QWidget):
    """A share as a bar with its figure."""

    def __init__(self, share: float, palette: Palette) -> None:
        super().__init__()
        self._share, self._palette = share, palette
        self.setMinimumSize(QSize(70, 22))
        self.setAccessibleName(f"{round(100 * share)} %")

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            room = QRectF(0, self.height() / 2 - 4, self.width() - 40, 8)
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(self._palette.rule))
            painter.drawRoundedRect(room, 4, 4)
            painter.setBrush(QColor(self._palette.accent))
            painter.drawRoundedRect(QRectF(room.x(), room.y(), max(8.0, room.width() * self._share), 8), 4, 4)
            painter.setPen(QColor(self._palette.text))
            painter.drawText(
                self.rect(), Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter, _percent(self._share)
            )


def _percent(share: float) -> str:
    return f"{min(99, round(100 * share))} %"


def _function_words(label: Label | None) -> str:
    if label is None:
        return ""
    return f"{label.shown_degree}, {function_words(label.function, label).lower()}"


def verdict(found: list[Weighed]) -> str:
    """The evidence in one plain line: "B♭4 78 %, B4 17 %: not certain"."""
    if not found:
        return translate("Gavotte", "Nothing can be heard there.")
    first = found[0].candidate.share
    named = [f"{w.name} {_percent(w.candidate.share)}" for w in found[:2] if w.candidate.share >= _LEAST_SHARE]
    if first >= CERTAIN:
        words = translate("Gavotte", "{pitches}: certain, as far as can be measured")
        named = named[:1]
    elif first >= LIKELY:
        words = translate("Gavotte", "{pitches}: likely")
    else:
        words = translate("Gavotte", "{pitches}: not certain")
    return words.format(pitches=", ".join(named))
