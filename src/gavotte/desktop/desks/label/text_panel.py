"""The analysis as text, bar by bar: read, written anew where the user knows better, exported."""

from __future__ import annotations

from fractions import Fraction

from PyQt6.QtCore import QEvent, QObject, pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.label.told import Told
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import WordList
from gavotte.labelling.hand_out import BarText, bar_texts, with_bar_text


class TextPanel(QWidget):
    """The analysis bar by bar as text that can be written anew.

    Signals: ``export_wanted``, to write it as a file; ``bar_wanted(onset)``, to go to a bar.
    """

    export_wanted = pyqtSignal()
    bar_wanted = pyqtSignal(object)

    def __init__(self, session: SoloSession, activities: Activities) -> None:
        super().__init__()
        self._session = session
        self._told = Told(self, activities, bar_texts, self._list)
        self._texts: tuple[BarText, ...] = ()
        self._going = False
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.rows = WordList(translate("Gavotte", "The analysis, bar by bar"))
        self.rows.currentRowChanged.connect(self._chosen)
        self.bar = QLabel()
        self.bar.setObjectName("heading")
        self.field = QPlainTextEdit()
        self.field.setFixedHeight(108)
        self.field.setTabChangesFocus(True)
        self.field.setAccessibleName(translate("Gavotte", "The text of this bar"))
        self.field.setToolTip(translate("Gavotte", "Write the text of this bar as you would say it"))
        self.field.installEventFilter(self)
        session.leaving.connect(self.keep)
        self.again = QPushButton(translate("Gavotte", "As worked out"))
        self.again.setToolTip(translate("Gavotte", "Drop your own words for this bar"))
        self.again.clicked.connect(self._as_worked_out)
        self.export = QPushButton(translate("Gavotte", "Export as text…"))
        self.export.setObjectName("primary")
        self.export.setToolTip(translate("Gavotte", "Write the whole analysis as Markdown"))
        self.export.clicked.connect(self.export_wanted)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.again)
        row.addStretch(1)
        row.addWidget(self.export)
        column.addWidget(self.rows, 1)
        column.addWidget(self.bar)
        column.addWidget(self.field)
        column.addLayout(row)

    def refresh(self) -> None:
        """Show the open solo's text."""
        found = self._session.found
        if found is None or not self.isVisible():
            return
        self._told.ask(found)
        self.show_selection()

    def _list(self, texts: tuple[BarText, ...]) -> None:
        onset = self._onset
        self._texts = texts
        self._going = True
        self.rows.clear()
        for text in self._texts:
            self.rows.add_words(_name(text), text.words, text.written)
        self._going = False
        index = next((k for k, text in enumerate(self._texts) if text.onset == onset), 0)
        self._go_to_row(index if self._texts else -1)
        self.show_selection()

    def show_selection(self) -> None:
        """Go to the bar of the selected note."""
        shown, current, found = self._session.shown, self._session.selection.current, self._session.found
        if shown is None or current is None or found is None or self.field.hasFocus() or self.rows.hasFocus():
            return
        if found is not self._told.shown or current not in shown.places:
            return
        bar = found.frame.grid.at(shown.note(current).onset)
        index = next((k for k, text in enumerate(self._texts) if text.onset == bar.onset), None)
        if index is not None and index != self.rows.currentRow():
            self._go_to_row(index)

    def _go_to_row(self, row: int) -> None:
        """Show a bar without going there on the page."""
        self._going = True
        self.rows.setCurrentRow(row)
        self._going = False
        self._show_field()

    @property
    def _onset(self) -> Fraction | None:
        row = self.rows.currentRow()
        return self._texts[row].onset if 0 <= row < len(self._texts) else None

    def _chosen(self, row: int) -> None:
        if self._going:
            return
        self._show_field()
        if 0 <= row < len(self._texts):
            self.bar_wanted.emit(self._texts[row].onset)

    def _show_field(self) -> None:
        row = self.rows.currentRow()
        known = 0 <= row < len(self._texts)
        for widget in (self.bar, self.field, self.again):
            widget.setVisible(known)
        self.export.setEnabled(bool(self._texts))
        if known:
            text = self._texts[row]
            self.bar.setText(_name(text))
            self.field.setPlainText(text.words)
            self.again.setEnabled(text.written)

    def keep(self) -> None:
        """Take what stands in the field as the bar's text."""
        row, solo = self.rows.currentRow(), self._session.solo
        if solo is None or not 0 <= row < len(self._texts):
            return
        text, words = self._texts[row], self.field.toPlainText().strip()
        if words and words != text.words:
            name = translate("Gavotte", "Write the text of bar {number}").format(number=text.number)
            self._session.edit(name, with_bar_text(solo, text.onset, words))

    def _as_worked_out(self) -> None:
        onset, solo = self._onset, self._session.solo
        if onset is not None and solo is not None:
            self._session.edit(translate("Gavotte", "Drop your own words"), with_bar_text(solo, onset, None))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self.field and event is not None and event.type() == QEvent.Type.FocusOut:
            self.keep()
        return super().eventFilter(watched, event)


def _name(text: BarText) -> str:
    bar = (
        translate("Gavotte", "Bar {number}").format(number=text.number)
        if text.number
        else translate("Gavotte", "Pickup")
    )
    return f"{bar}  ·  {text.chords}" if text.chords else bar
