"""The phrase's card: what it does in a sentence, where it stands, what is in it, and which notes it is chosen from."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPlainTextEdit,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import rule

_HEADINGS, _FIELD_HEIGHT, _OVER_HEADING = 96, 92, 10


class PhraseCard(QScrollArea):
    """Shows one phrase. Signal: ``words_written(note, words)``, what the user says the phrase does that begins with a
    note (id); "" for what is worked out.
    """

    words_written = pyqtSignal(str, str)

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setAccessibleName(translate("Gavotte", "The phrase's card"))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        body = QWidget()
        body.setObjectName("card")
        column = QVBoxLayout(body)
        column.setContentsMargins(20, 16, 16, 16)
        column.setSpacing(8)
        self.heading = QLabel()
        self.heading.setObjectName("heading")
        self.place = QLabel()
        self.place.setObjectName("quiet")
        self.field = QPlainTextEdit()
        self.field.setFixedHeight(_FIELD_HEIGHT)
        self.field.setTabChangesFocus(True)
        self.field.setAccessibleName(translate("Gavotte", "What this phrase does"))
        self.field.setToolTip(translate("Gavotte", "Say what this phrase does in your own words"))
        self.field.installEventFilter(self)
        self.again = QPushButton(translate("Gavotte", "As worked out"))
        self.again.setToolTip(translate("Gavotte", "Drop your own words for this phrase"))
        self.again.clicked.connect(self._take_back)
        row = QHBoxLayout()
        row.addStretch(1)
        row.addWidget(self.again)
        self._lines = QGridLayout()
        self._lines.setHorizontalSpacing(12)
        self._lines.setVerticalSpacing(4)
        self._lines.setColumnMinimumWidth(0, _HEADINGS)
        self._lines.setColumnStretch(1, 1)
        self._chosen_head = QLabel()
        self._chosen_head.setObjectName("heading")
        self._chosen = QLabel()
        self._chosen.setWordWrap(True)
        self._chosen.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        for item in (self.heading, self.place, self.field):
            column.addWidget(item)
        column.addLayout(row)
        column.addWidget(self._chosen_head)
        column.addWidget(self._chosen)
        column.addWidget(rule())
        column.addLayout(self._lines)
        column.addStretch(1)
        self.setWidget(body)
        self._note, self._said, self._worked_out = "", "", ""

    def show_phrase(self, note: str, heading: str, place: str, worked_out: str, own: str) -> None:
        """Show another phrase, which begins with a ``note`` (id), or the same anew: ``worked_out`` is what is proposed
        that it does, ``own`` the user's words, or "". What is being written stays, and goes to its own phrase.
        """
        if note != self._note:
            self.keep()
        is_being_written = note == self._note and self._is_written
        self._note = note
        self.heading.setText(heading)
        self.place.setText(place)
        self._said, self._worked_out = own or worked_out, worked_out
        if not is_being_written and self.field.toPlainText() != self._said:
            self.field.setPlainText(self._said)
        self.again.setVisible(bool(own))

    @property
    def _is_written(self) -> bool:
        """Whether the field holds words that nobody has been told of yet."""
        return self.field.toPlainText().strip() != self._said.strip()

    def _take_back(self) -> None:
        self.field.setPlainText(self._said)
        self.words_written.emit(self._note, "")

    def show_lines(self, lines: tuple[tuple[str, str], ...], changes: tuple[tuple[str, str], ...] = ()) -> None:
        """Show the lines of the card, each a heading and words, and under them how each change of chord is met."""
        while (item := self._lines.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.setParent(None)
                widget.deleteLater()
        for row, line in enumerate(lines):
            self._show_line(row, *line)
        if changes:
            head = QLabel(translate("Gavotte", "At the chord changes"))
            head.setObjectName("heading")
            head.setContentsMargins(0, _OVER_HEADING, 0, 0)
            self._lines.addWidget(head, len(lines), 0, 1, 2)
        for row, line in enumerate(changes, len(lines) + 1):
            self._show_line(row, *line)

    def _show_line(self, row: int, heading: str, words: str) -> None:
        name, value = QLabel(heading), QLabel(words)
        name.setObjectName("quiet")
        name.setWordWrap(True)
        value.setWordWrap(True)
        value.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._lines.addWidget(name, row, 0, Qt.AlignmentFlag.AlignTop)
        self._lines.addWidget(value, row, 1)

    def show_chosen(self, heading: str, lines: list[str]) -> None:
        """Show which collections the notes may be chosen from, the likeliest first."""
        self._chosen_head.setText(heading)
        self._chosen.setText("\n".join(lines))

    def keep(self) -> None:
        """Take what stands in the field as the user's words."""
        if self._note and self._is_written:
            words = self.field.toPlainText().strip()
            self._said = words
            self.words_written.emit(self._note, "" if words == self._worked_out else words)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self.field and event is not None and event.type() == QEvent.Type.FocusOut:
            self.keep()
        return super().eventFilter(watched, event)
