"""The note card: everything about the selected note, and the buttons that change its label."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QObject, Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.page.function_sign import function_icon
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.keyboard_strip import KeyboardStrip
from gavotte.desktop.widgets.one_stop import OneStop
from gavotte.desktop.words import FUNCTION_WORDS, counted, device_words, figure_words, function_words, sureness
from gavotte.labelling.frame import Frame
from gavotte.labelling.overview import Group
from gavotte.solo.document import Function, Solo
from gavotte.solo.label import DEVICES, Alternative, Label
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord
from gavotte.theory.degrees import DegreeNaming, shown_degree


class NoteCard(QScrollArea):
    """Shows one note's label.

    Signals: ``function_chosen(function, device)`` ("" for the usual device), ``take_back_wanted()``,
    ``target_pointed(id)`` while the mouse is over the target ("" when it leaves), ``target_chosen(id)``,
    ``figure_wanted()`` to hear the figure the note belongs to.
    """

    function_chosen = pyqtSignal(Function, str)
    take_back_wanted = pyqtSignal()
    target_pointed = pyqtSignal(str)
    target_chosen = pyqtSignal(str)
    figure_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setAccessibleName(translate("Gavotte", "The note's card"))
        self.setFrameShape(QFrame.Shape.NoFrame)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._target: str | None = None
        self._label: Label | None = None
        self.palette_in_use: Palette = DAY
        body = QWidget()
        body.setObjectName("card")
        self._layout = QVBoxLayout(body)
        self._layout.setContentsMargins(20, 16, 16, 16)
        self._layout.setSpacing(8)
        self._build_head()
        self._build_functions()
        self._build_reason()
        self._build_alternatives()
        self._build_strip()
        self._layout.addStretch(1)
        self.setWidget(body)

    def _build_head(self) -> None:
        self.degree = QLabel()
        self.degree.setObjectName("degree")
        self.note = QLabel()
        self.note.setObjectName("heading")
        self.place = QLabel()
        self.place.setObjectName("quiet")
        words = QVBoxLayout()
        words.setSpacing(0)
        words.addWidget(self.note)
        words.addWidget(self.place)
        head = QHBoxLayout()
        head.setSpacing(16)
        head.addWidget(self.degree)
        head.addLayout(words, 1)
        self._layout.addLayout(head)

    def _build_functions(self) -> None:
        grid = QGridLayout()
        grid.setSpacing(4)
        self.functions: dict[Function, QPushButton] = {}
        self._group = OneStop(self)
        for k, (function, marked) in enumerate(FUNCTION_WORDS.items()):
            word = said(marked)
            button = QPushButton(word)
            button.setCheckable(True)
            button.setStyleSheet("text-align: left; padding: 4px 8px;")
            button.clicked.connect(lambda _, f=function: self.function_chosen.emit(f, ""))
            self._group.addButton(button)
            self.functions[function] = button
            grid.addWidget(button, k // 2, k % 2)
        self.device = Choice()
        self.device.setAccessibleName(translate("Gavotte", "How it does it"))
        self.device.setToolTip(translate("Gavotte", "How the note does it"))
        self.device.activated.connect(self._device_chosen)
        grid.addWidget(self.device, 3, 0, 1, 2)
        self._layout.addLayout(grid)

    def _build_reason(self) -> None:
        self.reason = QLabel()
        self.reason.setWordWrap(True)
        self.reason.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self.target = QPushButton()
        self.target.setObjectName("link")
        self.target.installEventFilter(self)
        self.target.clicked.connect(lambda: self.target_chosen.emit(self._target or ""))
        self.sure = QLabel()
        self.sure.setObjectName("quiet")
        self.take_back = QPushButton(translate("Gavotte", "Take back"))
        self.take_back.setToolTip(translate("Gavotte", "Let the rules decide again"))
        self.take_back.clicked.connect(self.take_back_wanted)
        self.heard = QLabel()
        self.heard.setObjectName("accent")
        self.heard.setWordWrap(True)
        self.figure = QPushButton()
        self.figure.setObjectName("link")
        self.figure.setToolTip(translate("Gavotte", "Select the figure with the note it leads into, and play it"))
        self.figure.clicked.connect(self.figure_wanted)
        self.sustained = QLabel()
        self.sustained.setObjectName("quiet")
        self.sustained.setWordWrap(True)
        row = QHBoxLayout()
        row.addWidget(self.sure, 1)
        row.addWidget(self.take_back)
        self._layout.addWidget(_rule())
        self._layout.addWidget(self.heard)
        self._layout.addWidget(self.reason)
        self._layout.addWidget(self.target)
        self._layout.addWidget(self.figure)
        self._layout.addWidget(self.sustained)
        self._layout.addLayout(row)

    def _build_alternatives(self) -> None:
        self._alternatives_rule = _rule()
        self._alternatives_heading = QLabel(translate("Gavotte", "Could also be"))
        self._alternatives_heading.setObjectName("heading")
        self._alternatives = QVBoxLayout()
        self._alternatives.setSpacing(8)
        self.alternative_buttons: list[QPushButton] = []
        self._layout.addWidget(self._alternatives_rule)
        self._layout.addWidget(self._alternatives_heading)
        self._layout.addLayout(self._alternatives)

    def _build_strip(self) -> None:
        self.chord = QLabel()
        self.chord.setObjectName("heading")
        self.scale = QLabel()
        self.scale.setObjectName("quiet")
        self.scale.setWordWrap(True)
        self.strip = KeyboardStrip()
        self._layout.addWidget(_rule())
        self._layout.addWidget(self.chord)
        self._layout.addWidget(self.strip)
        self._layout.addWidget(self.scale)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.palette_in_use = palette
        self.strip.palette_in_use = palette
        for function, button in self.functions.items():
            button.setIcon(function_icon(function, palette))
        self.strip.update()

    def show_something(self, some: bool) -> None:
        """Show a note, or nothing where none is selected."""
        body = self.widget()
        if body is not None:
            body.setVisible(some)

    def show_note(self, solo: Solo, frame: Frame, label: Label, group: Group | None = None) -> None:
        """Show the note that ``label`` belongs to, and the figure it is part of."""
        note = solo.note(label.note)
        self._label = label
        self.degree.setText(label.shown_degree)
        self.degree.setStyleSheet(f"color: {self.palette_in_use.functions[label.function]};")
        doubt = translate("Gavotte", "  ·  marked uncertain") if note.uncertain else ""
        self.note.setText(f"{note.pitch.shown}{note.pitch.octave}{doubt}")
        place = frame.grid.place(note.onset)
        self.place.setText(place[0].upper() + place[1:])
        self._show_function(label)
        self._show_reason(solo, label, frame.school.naming)
        self.heard.setVisible(bool(label.heard))
        self.heard.setText(
            translate("Gavotte", "Heard in {name}: {degree}").format(name=label.heard, degree=label.other)
        )
        self.figure.setVisible(group is not None)
        if group is not None:
            self.figure.setText(
                translate("Gavotte", "⌊⌋  {figure}, {notes}").format(
                    figure=figure_words(group), notes=counted(len(group.notes), "note")
                )
            )
        self._show_alternatives(label)
        self._show_strip(frame, label, note.onset, note.pitch.midi)

    def _show_function(self, label: Label) -> None:
        for function, button in self.functions.items():
            word = function_words(function, label)
            button.setText(word)
            button.setToolTip(translate("Gavotte", "Call this note: {function}").format(function=word.lower()))
            button.setAccessibleName(word)
        self.functions[label.function].setChecked(True)
        self.device.clear()
        for device in DEVICES[label.function]:
            self.device.addItem(device_words(device), device)
        self.device.setCurrentIndex(max(0, self.device.findData(label.device)))

    def _show_reason(self, solo: Solo, label: Label, naming: DegreeNaming) -> None:
        self.reason.setText(label.reason)
        self._target = label.target
        self.target.setVisible(label.target is not None)
        if label.target is not None:
            goal = solo.note(label.target)
            self.target.setText(
                translate("Gavotte", "→  Leads into {shown}{octave}").format(
                    shown=goal.pitch.shown, octave=goal.pitch.octave
                )
            )
            self.target.setToolTip(translate("Gavotte", "Point at it to see it on the page; click to go there"))
        self.sustained.setVisible(bool(label.sustained))
        self.sustained.setText(
            "\n".join(
                translate("Gavotte", "It sounds on and becomes the {degree} of {chord}.").format(
                    degree=shown_degree(s.degree, naming), chord=shown_chord(parse_chord_symbol(s.chord))
                )
                for s in label.sustained
            )
        )
        self.sure.setText(sureness(label.confidence, label.decided))
        self.take_back.setVisible(label.decided)

    def _show_alternatives(self, label: Label) -> None:
        while (item := self._alternatives.takeAt(0)) is not None:
            widget = item.widget()
            if widget is not None:
                widget.hide()
                widget.deleteLater()
        self.alternative_buttons = []
        shown = bool(label.alternatives)
        self._alternatives_rule.setVisible(shown)
        self._alternatives_heading.setVisible(shown)
        before: QWidget = self.take_back
        for alternative in label.alternatives:
            self._alternatives.addWidget(self._alternative(alternative, label))
            # What is made anew would come last on the way by Tab.
            QWidget.setTabOrder(before, self.alternative_buttons[-1])
            before = self.alternative_buttons[-1]

    def _alternative(self, alternative: Alternative, label: Label) -> QWidget:
        box = QWidget()
        layout = QVBoxLayout(box)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(2)
        button = QPushButton(f"{function_words(alternative.function, label)}, {device_words(alternative.device)}")
        button.setIcon(function_icon(alternative.function, self.palette_in_use))
        button.setStyleSheet("text-align: left; padding: 4px 8px;")
        button.setToolTip(translate("Gavotte", "Call it this instead"))
        button.setAccessibleDescription(alternative.reason)
        button.clicked.connect(lambda: self.function_chosen.emit(alternative.function, alternative.device))
        self.alternative_buttons.append(button)
        text = QLabel(alternative.reason)
        text.setObjectName("quiet")
        text.setWordWrap(True)
        layout.addWidget(button)
        layout.addWidget(text)
        return box

    def _show_strip(self, frame: Frame, label: Label, onset: object, midi: int) -> None:
        index = next(i for i, framed in enumerate(frame.notes) if framed.note.id == label.note)
        span = frame.span_of(frame.notes[index])
        chord = span.chord
        name = (
            shown_chord(parse_chord_symbol(span.text))
            if span.text
            else translate("Gavotte", "No chord: at home is {chord}").format(chord=shown_chord(chord))
        )
        naming = frame.school.naming
        tones = "  ".join(f"{shown_degree(tone, naming)} {chord.name_of(tone).shown}" for tone in chord.tones)
        self.chord.setText(f"{name}    {tones}")
        self.scale.setText(translate("Gavotte", "Local scale: {name}").format(name=span.scale.name))
        self.strip.show_chord(
            chord.tone_classes,
            span.scale.pitch_classes,
            midi,
            translate("Gavotte", "{chord}: chord tones {tones}; local scale {scale}").format(
                chord=name, tones=tones, scale=span.scale.name
            ),
        )

    def _device_chosen(self) -> None:
        if self._label is not None:
            self.function_chosen.emit(self._label.function, str(self.device.currentData()))

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self.target and event is not None:
            if event.type() in (QEvent.Type.Enter, QEvent.Type.FocusIn):
                self.target_pointed.emit(self._target or "")
            elif event.type() in (QEvent.Type.Leave, QEvent.Type.FocusOut):
                self.target_pointed.emit("")
        return super().eventFilter(watched, event)


def _rule() -> QFrame:
    line = QFrame()
    line.setObjectName("line")
    line.setFixedHeight(1)
    return line
