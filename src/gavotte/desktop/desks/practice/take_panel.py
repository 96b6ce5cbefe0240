"""The take: where it comes from, how loud it is, what became of it in words, and the takes there were."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from math import log10

from PyQt6.QtCore import QRectF, QSize, pyqtSignal
from PyQt6.QtGui import QColor, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from gavotte.desktop.desks.practice.words import MANNERS, Read, as_it_is, key_words
from gavotte.desktop.painting import painting
from gavotte.desktop.playback.microphone import microphone_names
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.rows import RowList, WordList
from gavotte.library.practising import KeptTake
from gavotte.practice.invented import Manner
from gavotte.practice.item import PracticeItem
from gavotte.practice.take import Verdict


@dataclass(frozen=True, slots=True)
class FromKeyboard:
    """A MIDI keyboard by its name."""

    name: str


_LIST_HIGH = 96


class _Meter(QWidget):
    """How loud it is, as a bar that turns to the warning's colour near the limit."""

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._level = 0.0
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setAccessibleName(translate("Gavotte", "Level of the microphone"))

    def sizeHint(self) -> QSize:
        return QSize(120, 8)

    def show_level(self, level: float) -> None:
        """Show a level from 0 to 1."""
        self._level = level
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        palette = self.palette_in_use
        with painting(self) as painter:
            whole = QRectF(0, 0, self.width(), self.height())
            painter.fillRect(whole, QColor(palette.rule))
            # Loudness is heard in ratios: half the bar is 30 dB below the limit.
            share = max(0.0, 1 + log10(self._level) / 3) if self._level > 0 else 0.0
            colour = palette.warning if self._level > 0.97 else palette.accent
            painter.fillRect(QRectF(0, 0, share * self.width(), self.height()), QColor(colour))


class TakePanel(QWidget):
    """Signals: ``loop_wanted``, work on what is to be worked on next; ``chosen(take)``, an id in the list;
    ``hear_wanted``; ``delete_wanted``; ``file_wanted``, judge a sound file; ``record_wanted``, hear the record.
    """

    loop_wanted = pyqtSignal()
    chosen = pyqtSignal(str)
    hear_wanted = pyqtSignal()
    delete_wanted = pyqtSignal()
    file_wanted = pyqtSignal()
    record_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.source = Choice()
        self.source.setAccessibleName(translate("Gavotte", "Where the take comes from"))
        self.file = QPushButton(translate("Gavotte", "A file…"))
        self.file.setToolTip(translate("Gavotte", "Judge a take that was recorded elsewhere"))
        self.meter = _Meter()
        self.report = WordList(translate("Gavotte", "What became of the take"))
        self.none = QLabel(
            translate(
                "Gavotte",
                "Record a take: it is compared with what is written, note by note. The sound stays on this machine; "
                "the microphone is open only while you record.",
            )
        )
        self.none.setWordWrap(True)
        self.none.setObjectName("quietBody")
        self.loop = QPushButton(translate("Gavotte", "Work on that"))
        self.loop.setObjectName("primary")
        self.takes = RowList(translate("Gavotte", "Takes"))
        self.hear = QPushButton(translate("Gavotte", "Hear it"))
        self.delete = QPushButton(translate("Gavotte", "Delete"))
        self.record = QPushButton()
        self.record.setToolTip(
            translate("Gavotte", "What is on the stand as it is on its record, at the tempo of the run and in its key")
        )
        self.record.clicked.connect(self.record_wanted)
        self.show_record(False)
        self._ids: list[str] = []
        self._room = QWidget()
        self.fill_sources()
        self._lay_out()
        self.loop.clicked.connect(self.loop_wanted)
        self.hear.clicked.connect(self.hear_wanted)
        self.delete.clicked.connect(self.delete_wanted)
        self.file.clicked.connect(self.file_wanted)
        self.takes.currentRowChanged.connect(self._choose)

    def _lay_out(self) -> None:
        above = QHBoxLayout()
        above.setSpacing(8)
        above.addWidget(self.file)
        above.addWidget(self.record)
        above.addStretch(1)
        top = QVBoxLayout()
        top.setContentsMargins(12, 10, 12, 8)
        top.setSpacing(8)
        top.addWidget(self.source)
        top.addLayout(above)
        top.addWidget(self.meter)
        top.addWidget(self.none)
        below = QHBoxLayout()
        below.setContentsMargins(12, 8, 12, 8)
        below.setSpacing(8)
        for button in (self.loop, self.hear, self.delete):
            below.addWidget(button)
        below.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(rule())
        column.addWidget(self.report, 3)
        column.addLayout(below)
        column.addWidget(rule())
        # The words above are not to be cut for it.
        self.takes.setMinimumHeight(_LIST_HIGH)
        self.takes.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Ignored)
        column.addWidget(self.takes, 2)
        column.addWidget(self._room, 1)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.meter.palette_in_use = palette
        self.report.set_palette(palette)
        self.takes.set_palette(palette)

    def show_record(self, playing: bool) -> None:
        """Show whether the record is heard."""
        self.record.setText(translate("Gavotte", "Silence") if playing else translate("Gavotte", "The record"))

    def fill_sources(self, keyboards: Sequence[str] = ()) -> None:
        """List the microphones and MIDI keyboards there are, and the invented takes."""
        before = self.source.currentData()
        self.source.blockSignals(True)
        self.source.clear()
        for name in microphone_names():
            self.source.addItem(name, name)
        for name in keyboards:
            self.source.addItem(name, FromKeyboard(name))
        for manner in Manner:
            self.source.addItem(said(MANNERS[manner]), manner)
        row = next((k for k in range(self.source.count()) if self.source.itemData(k) == before), 0)
        self.source.setCurrentIndex(row)
        self.source.blockSignals(False)

    @property
    def wanted(self) -> Manner | FromKeyboard | str:
        """Where the next take comes from: an invented one, a MIDI keyboard, or a microphone by its name."""
        found: Manner | FromKeyboard | str = self.source.currentData()
        return found

    def show_report(self, lines: Sequence[tuple[str, str]], can_loop: bool) -> None:
        """Show what is said of a take, as (heading, words); nothing for none."""
        self.report.clear()
        for heading, words in lines:
            self.report.add_words(heading, words)
        self.report.setVisible(bool(lines))
        self.none.setVisible(not lines)
        self.loop.setVisible(can_loop)
        self._make_room()

    def show_takes(
        self,
        takes: Sequence[tuple[str, KeptTake]],
        item: PracticeItem | None,
        current: str | None,
        read: Read = as_it_is,
    ) -> None:
        """List the takes of an item."""
        self.takes.blockSignals(True)
        self.takes.clear()
        self._ids = [name for name, _ in takes]
        for name, kept in takes:
            right = kept.take.count(Verdict.RIGHT)
            when = datetime.fromisoformat(kept.at)
            key = key_words(item, kept.number, read) if item is not None else ""
            self.takes.add_row(
                name,
                f"{when:%d %b, %H:%M}",
                translate("Gavotte", "{key}, tempo {tempo}").format(
                    key=key, tempo=round(kept.take.tempo / float(kept.music.meters[0].meter.beats[0].length))
                ),
                translate("Gavotte", "{right} of {notes}").format(right=right, notes=len(kept.take.notes)),
            )
        if current in self._ids:
            self.takes.setCurrentRow(self._ids.index(current))
        self.takes.blockSignals(False)
        self.takes.setVisible(bool(takes))
        self._make_room()
        has = current in self._ids
        self.hear.setVisible(has and bool(dict(takes)[current or ""].sound))
        self.delete.setVisible(has)

    def _make_room(self) -> None:
        """What is there stands at the top, also where there is little."""
        self._room.setVisible(self.report.isHidden() and self.takes.isHidden())

    def _choose(self, row: int) -> None:
        if 0 <= row < len(self._ids):
            self.chosen.emit(self._ids[row])
