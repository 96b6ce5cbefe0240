"""The line in which is asked for licks: suggestions as one types, and what can't be read marked where it stands."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QModelIndex, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QKeyEvent, QPaintEvent, QPen, QStandardItem, QStandardItemModel
from PyQt6.QtWidgets import QCompleter, QStyle, QStyleOptionFrame

from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.suggestion_list import SuggestionList
from gavotte.vocabulary.query import Query, QueryError, read_query
from gavotte.vocabulary.suggesting import suggestions

_LINE_ROLE = Qt.ItemDataRole.UserRole + 1
_WIDTH = 420
"""Pixels of the list of suggestions."""
_INSIDE = 2
"""Pixels between a line edit's frame and its text."""


class _Completer(QCompleter):
    """Shows whatever the model has, and puts the line of the chosen suggestion in."""

    def pathFromIndex(self, index: QModelIndex) -> str:
        return str(index.data(_LINE_ROLE) or "")

    def splitPath(self, path: str | None) -> list[str]:
        return [""]


class SearchLine(Line):
    """``query`` is what is asked for, None for nothing; ``error`` says why the line can't be read, "" where it can.

    Signal: ``asked``, another line stands here.
    """

    asked = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.query: Query | None = None
        self.error = ""
        self.players: Sequence[str] = ()
        self.tags: Sequence[str] = ()
        self._wrong: tuple[int, int] | None = None
        self._model = QStandardItemModel(self)
        completer = _Completer(self._model, self)
        completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        completer.setMaxVisibleItems(12)
        self.setCompleter(completer)
        self._list = SuggestionList(completer, self, _WIDTH)
        self.setClearButtonEnabled(True)
        self.setAccessibleName(translate("Gavotte", "Search licks and solos"))
        self.setPlaceholderText(translate("Gavotte", "Search: 3 5 b7 b9 on V"))
        self.setToolTip(
            translate(
                "Gavotte",
                "Degrees, moves (+2 -1), pitches, directions, rhythm, functions and figures, where it begins and ends, "
                "over what, whose; all combined",
            )
        )
        self.textChanged.connect(self._read)
        self.textEdited.connect(lambda _: self._suggest())

    def _read(self, text: str) -> None:
        self.query, self.error, self._wrong = None, "", None
        if text.strip():
            try:
                self.query = read_query(text)
            except QueryError as error:
                self.error = str(error)
                self._wrong = (error.start, error.end)
        self.update()
        self.asked.emit()

    def _suggest(self) -> None:
        self._model.clear()
        for suggestion in suggestions(self.text(), self.players, self.tags):
            item = QStandardItem(f"{suggestion.word}   –   {suggestion.meaning}")
            item.setData(suggestion.line, _LINE_ROLE)
            self._model.appendRow(item)

    def put_in(self, words: str) -> None:
        """Append words to the line."""
        text = self.text()
        gap = "" if not text or text.endswith(" ") else " "
        self.setText(f"{text}{gap}{words}")
        self.setFocus()
        self.end(False)
        self._suggest()

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        # The arrow down in a line without text shows what can be asked for.
        completer = self.completer()
        if event is not None and event.key() == Qt.Key.Key_Down and not self.text() and completer is not None:
            self._suggest()
            completer.complete()
            return
        super().keyPressEvent(event)

    def paintEvent(self, event: QPaintEvent | None) -> None:
        super().paintEvent(event)
        if self._wrong is None:
            return
        option = QStyleOptionFrame()
        self.initStyleOption(option)
        style = self.style()
        assert style is not None
        rect = style.subElementRect(QStyle.SubElement.SE_LineEditContents, option, self)
        metrics, text = self.fontMetrics(), self.text()
        if metrics.horizontalAdvance(text) > rect.width() - 2 * _INSIDE:
            # The line is scrolled: nobody knows how far. The message names the word.
            return
        start, end = (metrics.horizontalAdvance(text[:at]) for at in self._wrong)
        left = rect.left() + _INSIDE + self.textMargins().left()
        with painting(self) as painter:
            painter.setPen(QPen(QColor(self.palette_in_use.warning), 2, Qt.PenStyle.DotLine))
            y = rect.bottom() - 2
            painter.drawLine(left + start, y, left + max(end, start + 6), y)
