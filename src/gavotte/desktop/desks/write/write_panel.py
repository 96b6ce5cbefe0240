"""The panel beside the page: what the keys write, marks, chords, the draft, checks."""

from __future__ import annotations

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QResizeEvent
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.write.checks_panel import ChecksPanel
from gavotte.desktop.desks.write.chords_panel import ChordsPanel
from gavotte.desktop.desks.write.draft_panel import DraftPanel
from gavotte.desktop.desks.write.key_pad import KeyPad
from gavotte.desktop.desks.write.marks_panel import MarksPanel
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.one_stop import OneStop
from gavotte.desktop.widgets.tabbed import Tabbed
from gavotte.writing.entry import Entry, Way

WIDTH = 348

_WAYS = (
    (Way.NOTES, QT_TRANSLATE_NOOP("Gavotte", "Notes"), QT_TRANSLATE_NOOP("Gavotte", "A letter writes a note")),
    (
        Way.RHYTHM,
        QT_TRANSLATE_NOOP("Gavotte", "Rhythm"),
        QT_TRANSLATE_NOOP("Gavotte", "A value writes a note, its pitch left open, or gives a note its length"),
    ),
    (
        Way.PITCHES,
        QT_TRANSLATE_NOOP("Gavotte", "Pitches"),
        QT_TRANSLATE_NOOP("Gavotte", "A letter goes to the next note, whose rhythm stays"),
    ),
)
_HINTS = {
    Way.NOTES: QT_TRANSLATE_NOOP(
        "Gavotte", "Choose a value, then write pitches by name. S and X sharpen and flatten the note just written."
    ),
    Way.RHYTHM: QT_TRANSLATE_NOOP(
        "Gavotte", "Each value writes a note at once. Over notes that are there, it gives them their lengths."
    ),
    Way.PITCHES: QT_TRANSLATE_NOOP("Gavotte", "Each letter goes to the next note. The rhythm stays as it is."),
}


_MENDING = QT_TRANSLATE_NOOP(
    "Gavotte", "A letter is this note's pitch; its length stays. A value chosen first writes over it."
)


class _KeysPage(QWidget):
    """A page whose last words, ``more``, go where there is no room for them."""

    more: QWidget | None = None
    _room_wanted = 0

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        super().resizeEvent(event)
        layout = self.layout()
        if self.more is None or layout is None:
            return
        if self.more.isVisibleTo(self):
            self._room_wanted = max(layout.totalHeightForWidth(self.width()), layout.totalSizeHint().height())
        self.more.setVisible(self.height() >= self._room_wanted)


class WritePanel(Tabbed):
    """What stands beside the page at the Write desk: keys, marks, chords, draft, checks.

    Signals: ``way_wanted(way)``, ``insert_wanted(bool)``.
    """

    way_wanted = pyqtSignal(object)
    insert_wanted = pyqtSignal(bool)

    def __init__(self) -> None:
        super().__init__(WIDTH)
        self.pad = KeyPad()
        self.marks = MarksPanel()
        self.chords = ChordsPanel()
        self.draft = DraftPanel()
        self.checks = ChecksPanel()
        self.add_pages(
            (
                ("keys", translate("Gavotte", "Keys"), self._keys_page()),
                ("marks", translate("Gavotte", "Marks"), self.marks),
                ("chords", translate("Gavotte", "Chords"), self.chords),
                ("draft", translate("Gavotte", "Draft"), self.draft),
                ("checks", translate("Gavotte", "Checks"), self.checks),
            )
        )

    def _keys_page(self) -> QWidget:
        page = _KeysPage()
        column = QVBoxLayout(page)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(12)
        row = QHBoxLayout()
        row.setSpacing(4)
        self.ways: dict[Way, QPushButton] = {}
        group = OneStop(self)
        for way, words, tip in _WAYS:
            button = QPushButton(said(words))
            button.setCheckable(True)
            button.setToolTip(said(tip))
            button.clicked.connect(lambda _, w=way: self.way_wanted.emit(w))
            group.addButton(button)
            row.addWidget(button, 1)
            self.ways[way] = button
        column.addLayout(row)
        self.hint = QLabel()
        self.hint.setObjectName("quiet")
        self.hint.setWordWrap(True)
        self.hint.setMinimumHeight(36)
        self.hint.setAlignment(Qt.AlignmentFlag.AlignTop)
        column.addWidget(self.hint)
        column.addWidget(self.pad, 0, Qt.AlignmentFlag.AlignHCenter)
        self.insert = Tick(translate("Gavotte", "Write before what is there"))
        self.insert.setToolTip(translate("Gavotte", "What follows moves on, up to the next rest"))
        self.insert.toggled.connect(self.insert_wanted)
        self.tap = QPushButton(translate("Gavotte", "Tap or play it in"))
        self.tap.setToolTip(
            translate(
                "Gavotte",
                "In time with the recording (it begins a bar before the caret), the page, or the solo's tempo: tap on "
                "every note and give the pitches afterwards, or play them by letters or on a keyboard",
            )
        )
        column.addWidget(self.insert)
        column.addWidget(self.tap)
        more = QLabel(
            translate(
                "Gavotte",
                "Arrows move the caret, with Shift they select.\nBackspace takes back what was written last.\n"
                "Alt and a value: the selected notes' length.\nAlt and arrows move notes, in pitch and in time.\n"
                "M selects the bar, P the phrase, ? shows all keys.",
            )
        )
        more.setObjectName("quiet")
        more.setWordWrap(True)
        column.addWidget(more)
        page.more = more
        column.addStretch(1)
        return page

    def focus_of_page(self) -> QWidget:
        """Where the keys go on the page that is shown."""
        beside: dict[str, QWidget] = {
            "keys": self.ways[Way.NOTES],
            "marks": self.marks.bend,
            "chords": self.chords.editor,
            "draft": self.draft.rows if self.draft.rows.isVisible() else self.draft.whole,
            "checks": self.checks.rows,
        }
        return beside[self.page_shown]

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.pad.set_palette(palette)
        self.marks.set_palette(palette)
        self.chords.set_palette(palette)

    def show_entry(self, entry: Entry) -> None:
        """Show the writer's state."""
        self.pad.show_entry(entry)
        self.ways[entry.way].setChecked(True)
        self.hint.setText(
            said(_MENDING if entry.mends and entry.way is Way.NOTES and not entry.insert else _HINTS[entry.way])
        )
        self.insert.blockSignals(True)
        self.insert.setChecked(entry.insert)
        self.insert.blockSignals(False)
