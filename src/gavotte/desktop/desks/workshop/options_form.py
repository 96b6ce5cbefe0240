"""The controls of a step, made from the options its operation declares."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QLabel, QScrollArea, QVBoxLayout, QWidget

from gavotte.desktop.desks.workshop.tapped_line import TappedLine
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.number import Number
from gavotte.workshop.operation import Operation, Option, Step, Value, Values

_SIDE = 12


class OptionsForm(QScrollArea):
    """Shows the options of a step. Signal: ``changed(name, value)``, one of them was given another value."""

    changed = pyqtSignal(str, object)

    def __init__(self) -> None:
        super().__init__()
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        self._body = QWidget()
        self._body.setObjectName("card")
        self._column = QVBoxLayout(self._body)
        self._column.setContentsMargins(_SIDE, 8, _SIDE, _SIDE)
        self._column.setSpacing(4)
        self.setWidget(self._body)
        self._operation: Operation | None = None
        self._lines: tuple[str, ...] = ()
        self._rows: dict[str, tuple[QLabel | None, QWidget]] = {}
        self._set: dict[str, Callable[[Value], None]] = {}
        self._filling = False

    def control(self, name: str) -> QWidget:
        """The control of an option. Raises KeyError."""
        return self._rows[name][1]

    def first(self) -> QWidget | None:
        """The first control there is."""
        return next((control for _, control in self._rows.values()), None)

    def show_step(self, operation: Operation | None, step: Step | None, lines: Sequence[str]) -> None:
        """Show a step of an operation; ``lines`` are the names of the lines that can be chosen."""
        if operation is not self._operation or tuple(lines) != self._lines:
            self._operation, self._lines = operation, tuple(lines)
            self._make()
        if operation is None or step is None:
            return
        values = Values(operation, dict(step.values))
        self._filling = True
        for option in self._shown():
            self._set[option.name](values.value(option.name))
            label, control = self._rows[option.name]
            counts = values.counts(option.name)
            control.setVisible(counts)
            if label is not None:
                label.setVisible(counts)
        self._filling = False

    def _shown(self) -> list[Option]:
        """The options that have a control."""
        return [] if self._operation is None else [o for o in self._operation.options if not o.is_hidden]

    def _make(self) -> None:
        while self._column.count():
            item = self._column.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self._rows, self._set = {}, {}
        if self._operation is None:
            return
        about = QLabel(said(self._operation.hint) + ".")
        about.setObjectName("quietBody")
        about.setWordWrap(True)
        self._column.addWidget(about)
        for option in self._shown():
            control = self._control(option)
            control.setAccessibleName(said(option.words))
            control.setToolTip(said(option.hint or option.words))
            label = None
            if not isinstance(control, Tick):
                label = QLabel(said(option.words))
                label.setObjectName("quiet")
                label.setBuddy(control)
                self._column.addSpacing(4)
                self._column.addWidget(label)
            self._column.addWidget(control)
            self._rows[option.name] = (label, control)
        self._column.addStretch(1)

    def _control(self, option: Option) -> QWidget:
        if option.of_lines or option.choices:
            return self._choice(option)
        if isinstance(option.default, bool):
            tick = Tick(said(option.words))
            tick.toggled.connect(partial(self._tell, option.name))
            self._set[option.name] = lambda value: tick.setChecked(bool(value))
            return tick
        if isinstance(option.default, int):
            number = Number(option.lowest, option.highest, 1)
            number.valueChanged.connect(lambda value, name=option.name: self._tell(name, int(value)))
            self._set[option.name] = lambda value: number.setValue(int(value))
            return number
        if option.is_tapped:
            return self._tapped(option)
        line = Line()
        line.editingFinished.connect(lambda name=option.name: self._tell(name, line.text().strip()))
        self._set[option.name] = lambda value: None if line.text() == value else line.setText(str(value))
        return line

    def _tapped(self, option: Option) -> TappedLine:
        tapped = TappedLine()
        tapped.changed.connect(partial(self._tell, option.name))
        self._set[option.name] = lambda value: tapped.show_lengths(str(value))
        return tapped

    def _choice(self, option: Option) -> Choice:
        choice = Choice()
        choice.setMinimumContentsLength(12)
        choice.setSizeAdjustPolicy(Choice.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        if option.of_lines:
            choice.addItem(translate("Gavotte", "Choose one"), "")
            for name in self._lines:
                choice.addItem(name, name)
        for value, words in option.choices:
            shown = said(words)
            choice.addItem(shown[0].upper() + shown[1:], value)
        choice.currentIndexChanged.connect(lambda _, name=option.name: self._tell(name, choice.currentData()))
        self._set[option.name] = lambda value: choice.setCurrentIndex(max(0, choice.findData(value)))
        return choice

    def _tell(self, name: str, value: Value) -> None:
        if not self._filling:
            self.changed.emit(name, value)
