"""The log: the week in bars, every entry, and what is said of one of them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date, datetime, timedelta

from PyQt6.QtCore import QRectF, QSize, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QPaintEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QSizePolicy, QVBoxLayout, QWidget

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.rows import RowList
from gavotte.practice.log import TAGS, LogEntry, answer_words, matching

_SHOWN = 400


class _Week(QWidget):
    """The minutes of the last seven days as bars."""

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._days: list[tuple[date, float]] = []
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)

    def sizeHint(self) -> QSize:
        return QSize(300, 96)

    def show_days(self, minutes: Mapping[date, float], today: date) -> None:
        """Show the week up to today."""
        self._days = [(day, minutes.get(day, 0.0)) for day in (today - timedelta(days=k) for k in range(6, -1, -1))]
        self.setAccessibleName(translate("Gavotte", "Minutes on the last seven days"))
        self.setAccessibleDescription(", ".join(f"{day:%A} {spent:.0f}" for day, spent in self._days))
        self.update()

    def paintEvent(self, event: QPaintEvent | None) -> None:
        palette = self.palette_in_use
        high = max([20.0, *(spent for _, spent in self._days)])
        wide, ground = self.width() / 7, self.height() - 20.0
        with painting(self) as painter:
            painter.setFont(font(SMALL))
            for k, (day, spent) in enumerate(self._days):
                left = k * wide
                height = (ground - 18) * spent / high
                painter.fillRect(
                    QRectF(left + 0.22 * wide, ground - height, 0.56 * wide, height), QColor(palette.accent)
                )
                painter.fillRect(QRectF(left + 3, ground, wide - 6, 1), QColor(palette.rule))
                painter.setPen(QColor(palette.quiet_text))
                painter.drawText(QRectF(left, ground + 2, wide, 18), Qt.AlignmentFlag.AlignCenter, f"{day:%a}")
                if spent >= 0.5:
                    box = QRectF(left, ground - height - 17, wide, 16)
                    painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{spent:.0f}")


class LogPanel(QWidget):
    """Signals: ``entry_changed(id, entry)``; ``delete_wanted(id)``; ``export_wanted``; ``over_time_wanted``."""

    over_time_wanted = pyqtSignal()
    entry_changed = pyqtSignal(str, object)
    delete_wanted = pyqtSignal(str)
    export_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.week = _Week()
        self.search = Line()
        self.search.setPlaceholderText(translate("Gavotte", "Search the log"))
        self.search.setAccessibleName(translate("Gavotte", "Search the log"))
        self.search.setClearButtonEnabled(True)
        self.rows = RowList(translate("Gavotte", "The log"))
        self.none = QLabel(translate("Gavotte", "What you answer after playing is written down here."))
        self.none.setObjectName("quietBody")
        self.none.setWordWrap(True)
        self.tags = QPushButton(translate("Gavotte", "Add a tag"))
        self._tag_menu = QMenu(self)
        self.tags.setMenu(self._tag_menu)
        self.own_tags = Line()
        self.own_tags.setPlaceholderText(translate("Gavotte", "Tags, with commas between them"))
        self.own_tags.setAccessibleName(translate("Gavotte", "What went wrong, in your own tags"))
        self.words = Line()
        self.words.setPlaceholderText(translate("Gavotte", "Next time: …"))
        self.words.setAccessibleName(translate("Gavotte", "What to look at next time"))
        self.delete = QPushButton(translate("Gavotte", "Delete"))
        self.export = QPushButton(translate("Gavotte", "Export…"))
        self.over_time = QPushButton(translate("Gavotte", "Over time…"))
        self._log: Sequence[tuple[str, LogEntry]] = ()
        self._ids: list[str] = []
        self._lay_out()
        self.search.textChanged.connect(lambda _: self._fill())
        self.rows.currentRowChanged.connect(lambda _: self._show_entry())
        self.own_tags.editingFinished.connect(self._tell)
        self.words.editingFinished.connect(self._tell)
        self.delete.clicked.connect(self._delete)
        self.export.clicked.connect(self.export_wanted)
        self.over_time.clicked.connect(self.over_time_wanted)
        self._tag_menu.aboutToShow.connect(self._fill_tags)

    def _lay_out(self) -> None:
        top = QVBoxLayout()
        top.setContentsMargins(12, 8, 12, 8)
        top.setSpacing(8)
        top.addWidget(self.week)
        search = QHBoxLayout()
        search.setSpacing(8)
        search.addWidget(self.search, 1)
        search.addWidget(self.over_time)
        top.addLayout(search)
        top.addWidget(self.none)
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        buttons.addWidget(self.tags)
        buttons.addStretch(1)
        buttons.addWidget(self.delete)
        buttons.addWidget(self.export)
        below = QVBoxLayout()
        below.setContentsMargins(12, 8, 12, 8)
        below.setSpacing(6)
        below.addWidget(self.own_tags)
        below.addWidget(self.words)
        below.addLayout(buttons)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(top)
        column.addWidget(self.rows, 1)
        column.addWidget(rule())
        column.addLayout(below)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.week.palette_in_use = palette
        self.week.update()
        self.rows.set_palette(palette)

    def show_log(self, log: Sequence[tuple[str, LogEntry]], minutes: Mapping[date, float], today: date) -> None:
        """Show the log, the latest first."""
        self.week.show_days(minutes, today)
        if list(log) == list(self._log):
            return
        self._log = log
        self._fill()

    def _fill(self) -> None:
        current = self.current_id()
        found = {id(entry) for entry in matching([entry for _, entry in self._log], self.search.text())}
        shown = [(name, entry) for name, entry in self._log if id(entry) in found][:_SHOWN]
        self.rows.blockSignals(True)
        self.rows.clear()
        self._ids = [name for name, _ in shown]
        for name, entry in shown:
            when = datetime.fromisoformat(entry.at)
            parts = [f"{when:%d %b}", entry.key, str(entry.tempo) if entry.tempo else "", *entry.tags, entry.words]
            self.rows.add_row(name, entry.name, " · ".join(filter(None, parts)), answer_words(entry.answer))
        if self._ids:
            self.rows.setCurrentRow(self._ids.index(current) if current in self._ids else 0)
        self.rows.blockSignals(False)
        self.none.setVisible(not self._log)
        self.rows.setVisible(bool(self._log))
        self.week.setVisible(bool(self._log))
        self.search.setVisible(bool(self._log))
        self.over_time.setVisible(bool(self._log))
        self._show_entry()

    def current_id(self) -> str | None:
        """The id of the entry that is looked at."""
        row = self.rows.currentRow()
        return self._ids[row] if 0 <= row < len(self._ids) else None

    def _entry(self) -> LogEntry | None:
        current = self.current_id()
        return next((entry for name, entry in self._log if name == current), None)

    def _show_entry(self) -> None:
        entry = self._entry()
        for widget in (self.tags, self.own_tags, self.words, self.delete, self.export):
            widget.setVisible(entry is not None or (widget is self.export and bool(self._log)))
        if entry is not None:
            self.own_tags.setText(", ".join(entry.tags))
            self.words.setText(entry.words)

    def _tell(self) -> None:
        entry, current = self._entry(), self.current_id()
        if entry is None or current is None:
            return
        tags = tuple(dict.fromkeys(tag.strip() for tag in self.own_tags.text().split(",") if tag.strip()))
        changed = replace(entry, tags=tags, words=self.words.text().strip())
        if changed != entry:
            self.entry_changed.emit(current, changed)

    def _fill_tags(self) -> None:
        entry = self._entry()
        known = list(dict.fromkeys([*TAGS, *(tag for _, other in self._log for tag in other.tags)]))
        self._tag_menu.clear()
        for tag in known:
            action = self._tag_menu.addAction(tag)
            assert action is not None
            action.setCheckable(True)
            action.setChecked(entry is not None and tag in entry.tags)
            action.triggered.connect(lambda on, t=tag: self._set_tag(t, on))

    def _set_tag(self, tag: str, on: bool) -> None:
        entry, current = self._entry(), self.current_id()
        if entry is not None and current is not None:
            others = tuple(own for own in entry.tags if own != tag)
            self.entry_changed.emit(current, replace(entry, tags=(*others, tag) if on else others))

    def _delete(self) -> None:
        current = self.current_id()
        if current is not None:
            self.delete_wanted.emit(current)
