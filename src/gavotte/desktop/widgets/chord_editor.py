"""The chord line as a text field: mistakes are underlined as they are typed, and names are completed."""

from __future__ import annotations

from PyQt6.QtCore import QStringListModel, Qt
from PyQt6.QtGui import QColor, QKeyEvent, QTextCharFormat, QTextCursor
from PyQt6.QtWidgets import QCompleter, QPlainTextEdit, QTextEdit

from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.suggestion_list import SuggestionList
from gavotte.solo.document import Solo
from gavotte.writing.chord_line import Problem, completions

_MOST_OFFERED = 8
_BETWEEN = set(" |[]\n\t")


class ChordEditor(QPlainTextEdit):
    """A plain text field; ``solo`` is what completions come from."""

    def __init__(self) -> None:
        super().__init__()
        self.setTabChangesFocus(True)
        self.setFont(font(15))
        self.setLineWrapMode(QPlainTextEdit.LineWrapMode.WidgetWidth)
        self.setAccessibleName(translate("Gavotte", "Chords"))
        self.setPlaceholderText("| Dm7 G7 | Cmaj7 | % |")
        self.solo: Solo | None = None
        self._palette: Palette = DAY
        self._names = QStringListModel(self)
        self.completer = QCompleter(self._names, self)
        self.completer.setWidget(self)
        self._suggested = SuggestionList(self.completer, self)
        self.completer.setCompletionMode(QCompleter.CompletionMode.UnfilteredPopupCompletion)
        self.completer.activated.connect(self._complete)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self._palette = palette

    def mark_problems(self, problems: tuple[Problem, ...]) -> None:
        """Underline what can't be read."""
        marks = []
        for problem in problems:
            mark = QTextEdit.ExtraSelection()
            style = QTextCharFormat()
            style.setUnderlineStyle(QTextCharFormat.UnderlineStyle.WaveUnderline)
            style.setUnderlineColor(QColor(self._palette.warning))
            style.setForeground(QColor(self._palette.warning))
            mark.format = style
            cursor = self.textCursor()
            cursor.setPosition(problem.start)
            cursor.setPosition(min(problem.end, len(self.toPlainText())), QTextCursor.MoveMode.KeepAnchor)
            mark.cursor = cursor
            marks.append(mark)
        self.setExtraSelections(marks)

    def word_before_cursor(self) -> str:
        """What was typed of the chord the cursor stands behind."""
        text = self.toPlainText()
        end = start = self.textCursor().position()
        while start > 0 and text[start - 1] not in _BETWEEN:
            start -= 1
        return text[start:end]

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        assert event is not None
        popup = self.completer.popup()
        if popup is not None and popup.isVisible() and event.key() in _FOR_THE_POPUP:
            event.ignore()
            return
        super().keyPressEvent(event)
        if event.text().strip():
            self._offer()
        elif popup is not None:
            popup.hide()

    def _offer(self) -> None:
        word = self.word_before_cursor()
        offered = completions(word, self.solo)[:_MOST_OFFERED] if self.solo is not None else []
        popup = self.completer.popup()
        if popup is None:
            return
        if not offered:
            popup.hide()
            return
        self._names.setStringList(offered)
        box = self.cursorRect()
        box.setWidth(140)
        self.completer.complete(box)

    def _complete(self, name: str) -> None:
        cursor = self.textCursor()
        cursor.movePosition(
            QTextCursor.MoveOperation.Left, QTextCursor.MoveMode.KeepAnchor, len(self.word_before_cursor())
        )
        cursor.insertText(name)
        self.setTextCursor(cursor)


_FOR_THE_POPUP = (Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_Escape, Qt.Key.Key_Tab, Qt.Key.Key_Backtab)
