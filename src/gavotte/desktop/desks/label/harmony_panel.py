"""The harmony panel: what the changes do, the keys heard, readings of stretches, and what falls on the changes."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import (
    QHBoxLayout,
    QHeaderView,
    QLabel,
    QPushButton,
    QTreeWidget,
    QTreeWidgetItem,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.label.told import Told
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.words import function_words, key_words
from gavotte.giving_way import give_way
from gavotte.harmony.ground import Ground
from gavotte.harmony.progressions import summary
from gavotte.labelling.answers import without_reading
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.overview import Landing, landings
from gavotte.labelling.readings import reading_name
from gavotte.solo.bars import BarGrid
from gavotte.solo.document import ReadingKind, Solo
from gavotte.solo.stretches import read_stretches
from gavotte.theory.chord_symbol import parse_chord_symbol, shown_chord

_NOTE = Qt.ItemDataRole.UserRole


@dataclass(frozen=True, slots=True)
class _Row:
    """What falls on a chord change, in words; ``note`` (id) is where a click goes."""

    place: str
    chord: str
    lands: str
    source: str
    note: str
    what: str


@dataclass(frozen=True, slots=True)
class _Harmony:
    """What is told of a solo's harmony."""

    summary: str
    keys: list[str]
    readings: list[str]
    has_keys_set: bool
    rows: list[_Row]


class HarmonyPanel(QWidget):
    """What the changes do, which keys are heard, and what falls on every chord change.

    Signals: ``key_wanted``, to set a key over the selected notes; ``reading_wanted``, to set a reading over them;
    ``note_wanted(id)``, to go to a note.
    """

    key_wanted = pyqtSignal()
    reading_wanted = pyqtSignal()
    note_wanted = pyqtSignal(str)

    def __init__(self, session: SoloSession, activities: Activities) -> None:
        super().__init__()
        self._session = session
        self._told = Told(self, activities, _harmony, self._show)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(6)
        self._heading(column, translate("Gavotte", "What the changes do"))
        self.summary = self._text(column)
        self.summary.setTextInteractionFlags(Qt.TextInteractionFlag.TextSelectableByMouse)
        self._heading(column, translate("Gavotte", "Keys heard"))
        self.keys = self._text(column)
        self.key = QPushButton(translate("Gavotte", "Another key here…"))
        self.key.setToolTip(translate("Gavotte", "Set the key the bars of the selected notes are heard in"))
        self.key.clicked.connect(self.key_wanted)
        self.heard = QPushButton(translate("Gavotte", "As the chords say"))
        self.heard.setToolTip(translate("Gavotte", "Forget the keys set by hand and hear them from the chords again"))
        self.heard.clicked.connect(self._hear_from_chords)
        self._buttons(column, self.key, self.heard)
        self._heading(column, translate("Gavotte", "Readings"))
        self.readings = self._text(column)
        self.reading = QPushButton(translate("Gavotte", "Read the selection…"))
        self.reading.setToolTip(translate("Gavotte", "Hear the selected notes by a key centre, or over other chords"))
        self.reading.clicked.connect(self.reading_wanted)
        self.by_changes = QPushButton(translate("Gavotte", "Take it away"))
        self.by_changes.setToolTip(translate("Gavotte", "Take the reading of the selected note away"))
        self.by_changes.clicked.connect(self._take_reading_away)
        self._buttons(column, self.reading, self.by_changes)
        column.addWidget(rule())
        self._falls = self._heading(column, translate("Gavotte", "What falls on the chord changes"))
        self.table = QTreeWidget()
        self.table.setRootIsDecorated(False)
        # Of a long solo's thousands of rows only those that are seen are measured.
        self.table.setUniformRowHeights(True)
        self.table.setAccessibleName(translate("Gavotte", "What falls on the chord changes"))
        self.table.setHeaderLabels(
            [
                translate("Gavotte", "Bar"),
                translate("Gavotte", "Chord"),
                translate("Gavotte", "Lands on"),
                translate("Gavotte", "From"),
            ]
        )
        head = self.table.header()
        assert head is not None
        head.setSectionResizeMode(QHeaderView.ResizeMode.ResizeToContents)
        head.setResizeContentsPrecision(0)
        self.table.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.table.itemClicked.connect(self._go)
        self.table.itemActivated.connect(self._go)
        column.addWidget(self.table, 1)
        # Where no chord changes the rest of the page stays empty.
        column.addStretch()

    def _heading(self, column: QVBoxLayout, words: str) -> QLabel:
        label = QLabel(words)
        label.setObjectName("heading")
        column.addSpacing(4)
        column.addWidget(label)
        return label

    def _text(self, column: QVBoxLayout) -> QLabel:
        label = QLabel()
        label.setWordWrap(True)
        label.setObjectName("quiet")
        column.addWidget(label)
        return label

    def _buttons(self, column: QVBoxLayout, *buttons: QPushButton) -> None:
        row = QHBoxLayout()
        row.setSpacing(8)
        for button in buttons:
            row.addWidget(button)
        row.addStretch(1)
        column.addLayout(row)
        column.addSpacing(6)

    # -- showing ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the open solo's harmony."""
        found = self._session.found
        if found is None or not self.isVisible():
            return
        self._told.ask(found)
        self.show_selection()

    def _show(self, harmony: _Harmony) -> None:
        nothing = translate("Gavotte", "No chord is written that can be read.")
        self.summary.setText(f"{harmony.summary}." if harmony.summary else nothing)
        self.keys.setText("\n".join(harmony.keys))
        self.heard.setVisible(harmony.has_keys_set)
        words = "\n".join(harmony.readings)
        usual = translate("Gavotte", "Everything by the changes.")
        if not harmony.summary:
            usual = translate("Gavotte", "Everything by the key.")
        self.readings.setText(words or usual)
        self._show_table(harmony.rows)
        for widget in (self._falls, self.table):
            widget.setVisible(bool(harmony.rows))

    def show_selection(self) -> None:
        """Offer what can be done with the selected notes."""
        some = bool(self._session.selection.notes())
        self.key.setEnabled(some)
        self.reading.setEnabled(some)
        current = self._session.selection.current
        solo = self._session.solo
        self.by_changes.setVisible(solo is not None and current is not None and without_reading(solo, current) != solo)

    def _show_table(self, rows: Sequence[_Row]) -> None:
        items = []
        for row in rows:
            item = QTreeWidgetItem([row.place, row.chord, row.lands, row.source])
            item.setData(0, _NOTE, row.note)
            item.setToolTip(2, row.what)
            items.append(item)
        self.table.clear()
        self.table.addTopLevelItems(items)

    def _go(self, item: QTreeWidgetItem) -> None:
        note = item.data(0, _NOTE)
        if note:
            self.note_wanted.emit(note)

    # -- asking -------------------------------------------------------------------------------------

    def _hear_from_chords(self) -> None:
        if self._session.solo is not None:
            self._session.edit(
                translate("Gavotte", "Hear the keys from the chords"), replace(self._session.solo, heard_keys=())
            )

    def _take_reading_away(self) -> None:
        solo, current = self._session.solo, self._session.selection.current
        if solo is not None and current is not None:
            self._session.edit(translate("Gavotte", "Take the reading away"), without_reading(solo, current))


def _harmony(found: Labelled) -> _Harmony:
    """All that is told of a solo's harmony; of a long one it takes a while."""
    solo, ground = found.solo, found.frame.ground
    lines = _reading_lines(solo, found.frame.grid)
    return _Harmony(summary(ground), _key_lines(ground), lines, bool(solo.heard_keys), list(_rows(found)))


def _rows(found: Labelled) -> Iterator[_Row]:
    solo = found.solo
    for landing in landings(found):
        give_way()
        bar, offset = found.frame.grid.locate(landing.onset)
        beat, _ = bar.meter.beat_at(offset)
        yield _Row(
            f"{bar.number}.{beat + 1}",
            shown_chord(parse_chord_symbol(landing.new)) if landing.new else "–",
            f"{solo.note(landing.note).pitch.shown} {landing.degree}" if landing.note else "–",
            f"{solo.note(landing.before).pitch.shown} {landing.degree_before}" if landing.before else "–",
            landing.note or landing.before or "",
            _what(landing),
        )


def _key_lines(ground: Ground) -> list[str]:
    lines, grid = [], ground.grid
    for key in ground.keys:
        first, last = grid.at(key.onset).number, grid.bars[-1].number
        if key.end < grid.bars[-1].end:
            index = grid.index_at(key.end)
            last = grid.bars[max(0, index - 1) if grid.bars[index].onset == key.end else index].number
        name = key_words(key)
        where = _bars(max(1, first), max(1, last))
        lines.append(f"{name}: {where}" + (f" ({key.why})" if key.why else ""))
    return lines


def _bars(first: int, last: int) -> str:
    if first == last:
        return translate("Gavotte", "bar {number}").format(number=first)
    return translate("Gavotte", "bars {first} to {last}").format(first=first, last=last)


def _reading_lines(solo: Solo, grid: BarGrid) -> list[str]:
    lines = []
    for reading, covered in read_stretches(solo):
        if reading.kind is not ReadingKind.CHANGES:
            first, last = (grid.at(solo.notes[i].onset).number for i in (covered.start, covered.stop - 1))
            lines.append(f"{reading_name(reading)}: {_bars(first, last)}")
    return lines


def _what(landing: Landing) -> str:
    label = landing.label
    if label is None:
        return translate("Gavotte", "No note falls here")
    return f"{function_words(label.function, label)}. {label.reason}"
