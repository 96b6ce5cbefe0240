"""The chords panel: the chord line as text with a live check, forms to begin with, choruses, and what moves."""

from __future__ import annotations

from bisect import bisect_right
from fractions import Fraction

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.core_words import FORM_WORDS
from gavotte.desktop.desk.updates import Follower, Update
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.chord_editor import ChordEditor
from gavotte.desktop.widgets.number import Number
from gavotte.desktop.words import counted
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ChordEvent, Solo
from gavotte.theory.chord import Chord, UnreadChord
from gavotte.theory.chord_symbol import shown_chord
from gavotte.theory.voice_leading import Move, moving_tones
from gavotte.writing.chord_line import read_chord_line, write_chord_line
from gavotte.writing.choruses import MOST_CHORUSES, bars_in_chorus, chorus_of_bars, with_chord_moved, with_choruses
from gavotte.writing.forms import FORMS, form_in_key


class ChordsPanel(QWidget):
    """Shows a solo's chords. ``edit_wanted(text, solo)`` asks for an edit; ``back_wanted`` to go to the page."""

    edit_wanted = pyqtSignal(str, object)
    back_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._written = ""
        self._solo: Solo | None = None
        self._chord: ChordEvent | None = None
        self._follower = Follower(self, self._write_out)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.form = Choice()
        self.form.setAccessibleName(translate("Gavotte", "Begin with a form"))
        self.form.setToolTip(translate("Gavotte", "Put a common form into the field, in the solo's key"))
        self.form.addItem(translate("Gavotte", "Begin with a form…"))
        for form, words in zip(FORMS, FORM_WORDS, strict=True):
            self.form.addItem(said(words), form)
        self.form.activated.connect(self._take_form)
        column.addWidget(self.form)
        self.editor = ChordEditor()
        self.editor.textChanged.connect(self._check)
        column.addWidget(self.editor, 1)
        self.verdict = QLabel()
        self.verdict.setObjectName("quiet")
        self.verdict.setWordWrap(True)
        column.addWidget(self.verdict)
        column.addLayout(self._buttons())
        column.addLayout(self._choruses())
        self.moves_title = QLabel()
        self.moves_title.setObjectName("heading")
        self.moves = QLabel()
        self.moves.setWordWrap(True)
        column.addWidget(self.moves_title)
        column.addWidget(self.moves)
        column.addLayout(self._chord_row())

    def _buttons(self) -> QHBoxLayout:
        self.use = QPushButton(translate("Gavotte", "Use these chords"))
        self.use.setObjectName("primary")
        self.use.setToolTip(translate("Gavotte", "Put the chords over the page"))
        self.use.clicked.connect(self.apply)
        self.drop = QPushButton(translate("Gavotte", "As they were"))
        self.drop.setToolTip(translate("Gavotte", "Show the solo's chords again"))
        self.drop.clicked.connect(self._reset)
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.use, 1)
        row.addWidget(self.drop)
        return row

    def _choruses(self) -> QHBoxLayout:
        self.bars = Number(1, 256, 1)
        self.bars.setAccessibleName(translate("Gavotte", "Bars in a chorus"))
        self.bars.setToolTip(translate("Gavotte", "How many bars one chorus has"))
        self.count = Number(1, MOST_CHORUSES, 1)
        self.count.setAccessibleName(translate("Gavotte", "Choruses"))
        self.count.setToolTip(translate("Gavotte", "How many choruses are played"))
        self.copy = QPushButton(translate("Gavotte", "Copy"))
        self.copy.setToolTip(translate("Gavotte", "Put the changes of the first chorus under every chorus"))
        self.copy.clicked.connect(self._copy_choruses)
        row = QHBoxLayout()
        row.setSpacing(6)
        for field in (self.count, self.bars):
            field.setFixedWidth(62)
        row.addWidget(self.count)
        row.addWidget(QLabel(translate("Gavotte", "choruses of")))
        row.addWidget(self.bars)
        row.addWidget(QLabel(translate("Gavotte", "bars")))
        row.addStretch(1)
        row.addWidget(self.copy)
        return row

    def _chord_row(self) -> QHBoxLayout:
        self.earlier = QPushButton(translate("Gavotte", "A beat earlier"))
        self.later = QPushButton(translate("Gavotte", "A beat later"))
        self.earlier.setToolTip(translate("Gavotte", "Move the chord at the caret"))
        self.later.setToolTip(translate("Gavotte", "Move the chord at the caret"))
        self.earlier.clicked.connect(lambda: self.move_chord(-1))
        self.later.clicked.connect(lambda: self.move_chord(1))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.earlier)
        row.addWidget(self.later)
        row.addStretch(1)
        return row

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.editor.set_palette(palette)
        self._check()

    # -- showing ------------------------------------------------------------------------------------

    def show_solo(self, solo: Solo | None) -> None:
        """Show a solo's chords, in concert pitch; what is being typed is kept while the chords stay the same."""
        before, self._solo = self._solo, solo
        self.editor.solo = solo
        if solo is None:
            return
        same = before is not None and (before.chords, before.sections, before.meters, before.form_end) == (
            solo.chords, solo.sections, solo.meters, solo.form_end,
        )  # fmt: skip
        if not same:
            self._follower.note(Update.EDITED)

    def _write_out(self, _: Update) -> None:
        """Write the chords of the solo out, which of a long one takes a while: nobody waits for it at another panel."""
        solo = self._solo
        if solo is None:
            return
        self._written = write_chord_line(solo)
        self._reset()
        bars = bars_in_chorus(solo) or sum(bar.number > 0 for bar in BarGrid(solo).bars)
        self.bars.setValue(bars)
        self.count.setValue(max(1, round(solo.form_end / solo.chorus)) if solo.chorus else 1)
        self._check()

    def show_place(self, time: Fraction) -> None:
        """Show the chord of a time, the next one, and what moves between them."""
        solo = self._solo
        events = solo.chords if solo is not None else ()
        index = bisect_right(events, time, key=lambda event: event.onset) - 1
        self._chord = events[index] if index >= 0 else None
        following = events[index + 1] if 0 <= index < len(events) - 1 else None
        for button in (self.earlier, self.later):
            button.setEnabled(self._chord is not None)
        title, words = _movement(self._chord, following)
        self.moves_title.setText(title)
        self.moves.setText(words)

    def _reset(self) -> None:
        if self._solo is not None:
            self.editor.setPlainText(self._written)

    def _check(self) -> None:
        solo = self._solo
        if solo is None:
            return
        text = self.editor.toPlainText()
        if text == self._written and not any(isinstance(event.symbol, UnreadChord) for event in solo.chords):
            # What was written out from the chords need not be read to be known.
            self.editor.mark_problems(())
            self.use.setEnabled(False)
            self.drop.setEnabled(False)
            self.verdict.setText(counted(sum(bar.number > 0 for bar in BarGrid(solo).bars), "bar"))
            return
        line = read_chord_line(text, solo)
        self.editor.mark_problems(line.problems)
        changed = bool(line.problems) or (line.solo.chords, line.solo.sections, line.solo.form_end) != (
            solo.chords, solo.sections, solo.form_end,
        )  # fmt: skip
        self.use.setEnabled(not line.problems and changed)
        self.drop.setEnabled(True)
        if line.problems:
            more = len(line.problems) - 1
            words = line.problems[0].why
            self.verdict.setText(
                words + (translate("Gavotte", " And {number} more.").format(number=more) if more else "")
            )
        else:
            self.verdict.setText(counted(line.bars, "bar"))

    # -- edits --------------------------------------------------------------------------------------

    def apply(self) -> None:
        """Use what was typed, if it can be read."""
        solo = self._solo
        if solo is None:
            return
        line = read_chord_line(self.editor.toPlainText(), solo)
        if line.problems:
            return
        self.edit_wanted.emit(translate("Gavotte", "Change the chords"), line.solo)
        self.back_wanted.emit()

    def _take_form(self, index: int) -> None:
        form = self.form.itemData(index)
        self.form.setCurrentIndex(0)
        if form is not None and self._solo is not None:
            self.editor.setPlainText(form_in_key(form, self._solo.keys[0].key))
            self.editor.setFocus()

    def _copy_choruses(self) -> None:
        solo = self._solo
        if solo is None:
            return
        chorus = chorus_of_bars(solo, round(self.bars.value()))
        self.edit_wanted.emit(
            translate("Gavotte", "Copy the changes"), with_choruses(solo, chorus, round(self.count.value()))
        )

    def move_chord(self, beats: int) -> None:
        """Move the chord at the caret by beats."""
        if self._solo is not None and self._chord is not None:
            self.edit_wanted.emit(
                translate("Gavotte", "Move a chord"), with_chord_moved(self._solo, self._chord.id, beats)
            )


def _movement(chord: ChordEvent | None, following: ChordEvent | None) -> tuple[str, str]:
    """From which chord to which, and which tones move how far."""
    if chord is None or following is None:
        return "", ""
    first, second = chord.symbol, following.symbol
    if not isinstance(first, Chord) or not isinstance(second, Chord):
        return "", ""
    moves = moving_tones(first, second)
    staying = [move.start.shown for move in moves if not move.semitones]
    parts = [_moved(move) for move in moves if move.semitones]
    if staying:
        words = translate("Gavotte", "{tones} stay") if len(staying) > 1 else translate("Gavotte", "{tones} stays")
        parts.append(words.format(tones=", ".join(dict.fromkeys(staying))))
    return f"{shown_chord(first)} → {shown_chord(second)}", " · ".join(parts)


def _moved(move: Move) -> str:
    sizes = {1: translate("Gavotte", "a semitone"), 2: translate("Gavotte", "a whole tone")}
    size = sizes.get(abs(move.semitones), translate("Gavotte", "{number} semitones").format(number=abs(move.semitones)))
    way = translate("Gavotte", "up") if move.semitones > 0 else translate("Gavotte", "down")
    return f"{move.start.shown} → {move.end.shown} ({size} {way})"
