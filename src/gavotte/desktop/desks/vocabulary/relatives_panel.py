"""The relatives of a lick: the nearest in the library, each with how it stands to it, laid under it."""

from __future__ import annotations

from collections.abc import Callable, Sequence

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QFrame, QHBoxLayout, QLabel, QPushButton, QScrollArea, QVBoxLayout, QWidget

from gavotte.desktop.desks.vocabulary.laid_view import LaidView
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.library.relatives import Relative
from gavotte.vocabulary.corpus import LabelledLine

_LIST_WIDTH = 250


class RelativesPanel(QWidget):
    """Lists relatives; the chosen one is laid under the lick.

    Signals: ``play_wanted``, hear the lick, then the relative; ``both_wanted``, hear them at once; ``go_wanted``, go to
    the relative's solo, or to the lick it is.
    """

    play_wanted = pyqtSignal()
    both_wanted = pyqtSignal()
    go_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._line: LabelledLine | None = None
        self._relatives: tuple[Relative, ...] = ()
        self.relatives = RowList(translate("Gavotte", "Relatives"))
        self.relatives.setFixedWidth(_LIST_WIDTH)
        self.laid = LaidView()
        scroll = QScrollArea()
        scroll.setFrameShape(QFrame.Shape.NoFrame)
        scroll.setWidgetResizable(True)
        scroll.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        scroll.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        scroll.setWidget(self.laid)
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setObjectName("quietBody")
        self.play = QPushButton(translate("Gavotte", "In turn"))
        self.play.setToolTip(translate("Gavotte", "Play the lick, then its relative"))
        self.both = QPushButton(translate("Gavotte", "Together"))
        self.both.setToolTip(translate("Gavotte", "Play the two together, the relative in the lick’s key"))
        self.go = QPushButton(translate("Gavotte", "Go there"))
        self.go.setToolTip(translate("Gavotte", "Show it where it stands"))
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        for button in (self.play, self.both, self.go):
            buttons.addWidget(button)
        buttons.addStretch(1)
        right = QVBoxLayout()
        right.setSpacing(8)
        right.addWidget(scroll, 1)
        right.addLayout(buttons)
        row = QHBoxLayout()
        row.setSpacing(12)
        row.addWidget(self.relatives)
        row.addLayout(right, 1)
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 6, 16, 12)
        column.setSpacing(6)
        column.addWidget(self.words)
        column.addLayout(row, 1)
        self.relatives.currentRowChanged.connect(lambda _: self._show_chosen())
        self.play.clicked.connect(self.play_wanted)
        self.both.clicked.connect(self.both_wanted)
        self.go.clicked.connect(self.go_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.relatives.set_palette(palette)
        self.laid.set_palette(palette)

    @property
    def chosen(self) -> Relative | None:
        """The relative that is laid under the lick."""
        row = self.relatives.currentRow()
        return self._relatives[row] if 0 <= row < len(self._relatives) else None

    def show_relatives(
        self, line: LabelledLine, relatives: Sequence[Relative], named: Callable[[Relative], tuple[str, str]]
    ) -> None:
        """List the relatives of a line; ``named`` gives the name and the source of each."""
        self._line, self._relatives = line, tuple(relatives)
        self.relatives.blockSignals(True)
        self.relatives.clear()
        for number, relative in enumerate(relatives):
            name, source = named(relative)
            self.relatives.add_row(str(number), name, source, f"{round(100 * relative.likeness)} %")
        self.relatives.setCurrentRow(0 if relatives else -1)
        self.relatives.blockSignals(False)
        self._show_chosen()

    def show_waiting(self) -> None:
        """Say that they are being looked for."""
        self._line, self._relatives = None, ()
        self.relatives.clear()
        self._show_chosen()
        self.words.setText(translate("Gavotte", "Looking for relatives …"))

    def _show_chosen(self) -> None:
        relative = self.chosen
        for widget in (self.play, self.both, self.go):
            widget.setVisible(relative is not None)
        self.relatives.setVisible(bool(self._relatives))
        if relative is None or self._line is None:
            self.laid.clear()
            self.words.setText(
                translate(
                    "Gavotte",
                    "Nothing in the library is much like it yet. Keep more licks, or transcribe more solos: relatives "
                    "are found in both.",
                )
            )
            return
        words = relative.words
        self.words.setText(f"{words[0].upper()}{words[1:]}.")
        self.laid.show_pair(self._line, relative.line, relative.aligned)
