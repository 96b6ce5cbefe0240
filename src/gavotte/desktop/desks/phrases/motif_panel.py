"""What comes back: the motifs by weight, or where a selection comes back; each place a jump, two under one another."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.phrases.pair_view import PairView
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.phrasing.motifs import Instance
from gavotte.phrasing.relations import MOST_PLACES, Relation
from gavotte.phrasing.structure import Structure
from gavotte.phrasing.telling import bar_words, counted


@dataclass(frozen=True)
class Theme:
    """Something that comes back: its first place, each other one with how it is related to that, and what they make
    together.
    """

    first: Instance
    others: tuple[tuple[Instance, Relation], ...]
    weight: float | None = None
    pattern: str = ""

    @property
    def places(self) -> tuple[Instance, ...]:
        """All places, in the order in which they are listed."""
        return (self.first, *(place for place, _ in self.others))


def themes_of(structure: Structure) -> list[Theme]:
    """The motifs of a solo as themes, the weightiest first."""
    return [
        Theme(
            motif.instances[0],
            tuple(zip(motif.instances[1:], relations, strict=True)),
            motif.weight,
            pattern,
        )
        for motif, relations, pattern in zip(structure.motifs, structure.relations, structure.patterns, strict=True)
    ]


class MotifPanel(QWidget):
    """Lists themes, and the places of the one that is chosen.

    Signals: ``theme_chosen(index)``, ``place_chosen(index)`` among the places of the theme, ``motifs_wanted``, to go
    back from what a selection was found in to all motifs, ``pair_wanted``, to hear the first place and the chosen one.
    """

    theme_chosen = pyqtSignal(int)
    place_chosen = pyqtSignal(int)
    motifs_wanted = pyqtSignal()
    pair_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.about = QLabel()
        self.about.setWordWrap(True)
        self.about.setObjectName("quiet")
        self.themes = RowList(translate("Gavotte", "What comes back"))
        self.places = RowList(translate("Gavotte", "Where it comes back"))
        self.pair = PairView()
        self.motifs = QPushButton(translate("Gavotte", "All motifs"))
        self.motifs.setToolTip(translate("Gavotte", "Back to everything that comes back in this solo"))
        self.hear = QPushButton(translate("Gavotte", "Play both"))
        self.hear.setToolTip(translate("Gavotte", "Play the first place, then the chosen one"))
        row = QHBoxLayout()
        row.addWidget(self.motifs)
        row.addStretch(1)
        row.addWidget(self.hear)
        column.addWidget(self.about)
        column.addWidget(self.themes, 3)
        column.addWidget(self.places, 3)
        column.addWidget(self.pair)
        column.addLayout(row)
        self._filling = False
        self.themes.currentRowChanged.connect(self._theme)
        self.places.currentRowChanged.connect(self._place)
        self.motifs.clicked.connect(self.motifs_wanted)
        self.hear.clicked.connect(self.pair_wanted)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.themes.set_palette(palette)
        self.places.set_palette(palette)
        self.pair.set_palette(palette)

    def show_themes(self, structure: Structure | None, themes: Sequence[Theme], chosen: int, searched: bool) -> None:
        """List themes; ``searched`` says that they are what a selection was found in."""
        self._filling = True
        self.themes.clear()
        for number, theme in enumerate(themes):
            assert structure is not None
            names = _names(structure, theme.first)
            detail = translate("Gavotte", "{number} times from {place}").format(
                number=len(theme.places), place=_place(structure, theme.first)
            )
            detail = theme.pattern or detail
            edge = "" if theme.weight is None else f"{max(1, round(100 * theme.weight))} %"
            self.themes.add_row(str(number), names, detail, edge)
        self.themes.setCurrentRow(chosen if themes else -1)
        self._filling = False
        self.motifs.setVisible(searched)
        self.themes.setVisible(not searched and bool(themes))
        if structure is None:
            self.about.setText("")
        elif searched:
            number = len(themes[0].others) if themes else 0
            found = (
                translate("Gavotte", "{notes} comes back {times}.")
                if number
                else translate("Gavotte", "{notes} comes back nowhere else, neither moved nor turned.")
            )
            notes = _names(structure, themes[0].first) if themes else ""
            times = counted(number, "time") if number < MOST_PLACES else translate("Gavotte", "very often")
            self.about.setText(found.format(notes=notes, times=times))
        elif themes:
            self.about.setText(
                translate(
                    "Gavotte",
                    "By how much of the solo they explain. Select notes and press W to see where else they are.",
                )
            )
        else:
            self.about.setText(translate("Gavotte", "Nothing comes back that is more than chance or a scale run."))

    def show_places(self, structure: Structure, theme: Theme | None, chosen: int) -> None:
        """List the places of a theme."""
        self._filling = True
        self.places.clear()
        for number, place in enumerate(theme.places if theme is not None else ()):
            assert theme is not None
            words = translate("Gavotte", "the first") if number == 0 else theme.others[number - 1][1].words
            bar = _place(structure, place)
            self.places.add_row(str(number), bar, words)
        self.places.setCurrentRow(chosen)
        self._filling = False
        has_other = theme is not None and 0 < chosen < len(theme.places)
        self.places.setVisible(theme is not None and bool(theme.others))
        self.pair.setVisible(has_other)
        self.hear.setVisible(has_other)
        if theme is not None and has_other:
            other, how = theme.others[chosen - 1]
            self.pair.show_pair(structure.found.solo, theme.first, other, how.differs)

    def _theme(self, row: int) -> None:
        if not self._filling and row >= 0:
            self.theme_chosen.emit(row)

    def _place(self, row: int) -> None:
        if not self._filling and row >= 0:
            self.place_chosen.emit(row)


def _place(structure: Structure, place: Instance) -> str:
    """Where a place begins: "bar 4, beat 1"."""
    found = structure.found
    return f"{bar_words(found, place.first)}, {found.frame.notes[place.first].place}"


def _names(structure: Structure, place: Instance) -> str:
    notes = structure.found.solo.notes[place.first : place.last + 1]
    return " ".join(note.pitch.name.shown for note in notes if not note.grace)
