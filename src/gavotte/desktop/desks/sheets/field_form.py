"""A form that is put together of named fields, and tells of each that is given another value."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from functools import partial

from PyQt6.QtCore import QEvent, QObject, Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPlainTextEdit, QScrollArea, QVBoxLayout, QWidget

from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.number import Number

_PAUSE_MS = 500
"""After so long without a key what was typed counts."""
_FEW_LINES, _MANY_LINES, _MOST = 84, 220, 20
"""Heights of the fields for text, in pixels; and what share of the room that is left a long one takes."""


class FieldForm(QScrollArea):
    """Fields under one another, by their names. Signal: ``changed(name, value, typed)``, where ``typed`` says that
    the value grows letter by letter.
    """

    changed = pyqtSignal(str, object, bool)

    def __init__(self) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self.fields: dict[str, QWidget] = {}
        self._set: dict[str, Callable[[object], None]] = {}
        self._waiting: dict[str, QTimer] = {}
        self._filling = False
        self.column = QVBoxLayout()
        self._row, self._to_come = QHBoxLayout(), 0
        self.begin()

    def begin(self) -> None:
        """Take all fields away. What was typed and is still waiting counts first."""
        self.finish()
        body = QWidget()
        body.setObjectName("card")
        self.column = QVBoxLayout(body)
        self.column.setContentsMargins(16, 12, 16, 16)
        self.column.setSpacing(4)
        self.fields, self._set, self._waiting = {}, {}, {}
        self.setWidget(body)

    def finish(self) -> None:
        """Have what was typed count now."""
        for name, timer in tuple(self._waiting.items()):
            if timer.isActive():
                timer.stop()
                self._tell_text(name)

    def show_values(self, values: Mapping[str, object]) -> None:
        """Fill the fields. What is being typed into one stays."""
        self._filling = True
        for name, value in values.items():
            timer = self._waiting.get(name)
            if name in self._set and not (timer is not None and timer.isActive()):
                self._set[name](value)
        self._filling = False

    # -- fields -------------------------------------------------------------------------------------

    def heading(self, words: str) -> None:
        """Words over the fields that follow."""
        label = QLabel(words)
        label.setObjectName("heading")
        if self.column.count():
            self.column.addSpacing(10)
        self.column.addWidget(label)

    def quiet(self, words: str) -> QLabel:
        """A line that explains."""
        label = QLabel(words)
        label.setObjectName("quietBody")
        label.setWordWrap(True)
        self.column.addWidget(label)
        return label

    def line(self, name: str, words: str, tip: str) -> None:
        """A line of text."""
        field = Line()
        field.textEdited.connect(lambda _: self._wait(name))
        field.editingFinished.connect(self.finish)

        def show(value: object) -> None:
            if field.text() != value:
                field.setText(str(value))
                # A long one is read from its beginning.
                field.setCursorPosition(0)

        self._set[name] = show
        self._add(name, words, tip, field)

    def area(self, name: str, words: str, tip: str, many: bool = False) -> None:
        """Several lines of text."""
        field = QPlainTextEdit()
        field.setTabChangesFocus(True)
        if many:
            field.setMinimumHeight(_MANY_LINES)
        else:
            field.setFixedHeight(_FEW_LINES)
        field.textChanged.connect(lambda: None if self._filling else self._wait(name))
        field.installEventFilter(self)
        self._set[name] = lambda value: None if field.toPlainText() == value else field.setPlainText(str(value))
        self._add(name, words, tip, field)
        if many:
            # What is written takes the room there is.
            self.column.setStretchFactor(field, _MOST)

    def tick(self, name: str, words: str, tip: str) -> None:
        """Something that is on or off."""
        field = Tick(words)
        field.toggled.connect(partial(self._tell, name))
        self._set[name] = lambda value: field.setChecked(bool(value))
        self._add(name, "", tip, field, words)

    def choice(self, name: str, words: str, tip: str, choices: Sequence[tuple[str, object]]) -> None:
        """One of several."""
        field = Choice()
        for shown, value in choices:
            field.addItem(shown, value)
        field.currentIndexChanged.connect(lambda _: self._tell(name, field.currentData()))
        self._set[name] = lambda value: field.setCurrentIndex(max(0, field.findData(value)))
        self._add(name, words, tip, field)

    def number(
        self,
        name: str,
        words: str,
        tip: str,
        low: float,
        high: float,
        step: float = 1,
        decimals: int = 0,
        unit: str = "",
    ) -> None:
        """A number."""
        field = Number(low, high, step, decimals, unit)
        field.setKeyboardTracking(False)
        field.valueChanged.connect(lambda value: self._tell(name, value if decimals else int(value)))
        self._set[name] = lambda value: field.setValue(float(str(value)))
        self._add(name, words, tip, field)

    def beside_one_another(self, count: int) -> None:
        """Have the next fields, so many of them, stand in one row."""
        self._row = QHBoxLayout()
        self._row.setSpacing(8)
        self._to_come = count
        self.column.addSpacing(6)
        self.column.addLayout(self._row)

    def _add(self, name: str, words: str, tip: str, field: QWidget, accessible: str = "") -> None:
        field.setToolTip(tip)
        field.setAccessibleName(accessible or words)
        column = self.column
        if self._to_come:
            column = QVBoxLayout()
            column.setSpacing(4)
            self._row.addLayout(column)
            self._to_come -= 1
        if words:
            label = QLabel(words)
            label.setObjectName("quiet")
            label.setBuddy(field)
            column.addSpacing(0 if column is not self.column else 6)
            column.addWidget(label)
        column.addWidget(field)
        self.fields[name] = field

    # -- telling ------------------------------------------------------------------------------------

    def _tell(self, name: str, value: object) -> None:
        if not self._filling:
            self.changed.emit(name, value, False)

    def _wait(self, name: str) -> None:
        timer = self._waiting.get(name)
        if timer is None:
            timer = self._waiting[name] = QTimer(self)
            timer.setSingleShot(True)
            timer.timeout.connect(lambda: self._tell_text(name))
        timer.start(_PAUSE_MS)

    def _tell_text(self, name: str) -> None:
        field = self.fields.get(name)
        if isinstance(field, QPlainTextEdit):
            self.changed.emit(name, field.toPlainText(), True)
        elif isinstance(field, Line):
            self.changed.emit(name, field.text(), True)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if event is not None and event.type() == QEvent.Type.FocusOut:
            self.finish()
        return super().eventFilter(watched, event)
