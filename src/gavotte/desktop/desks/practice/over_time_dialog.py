"""How practising an item has gone over time, as a curve: tempo by key, right notes and time of its takes."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from PyQt6.QtCore import Qt
from PyQt6.QtGui import QColor, QFont
from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.desks.practice.agenda import Agenda
from gavotte.desktop.desks.practice.words import Read, key_words
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.library.practising import KeptTake
from gavotte.practice.item import MOST_KEYS
from gavotte.practice.over_time import Moment, lateness, rights, tempos

_WIDE, _HIGH, _AROUND = 720, 340, 52


class OverTimeDialog(Dialog):
    """``figures`` are the curves by their names, each a mapping from the name of a line to its moments; ``goal`` the
    tempo that is aimed at, ``current`` the name of the line that is looked at.
    """

    def __init__(
        self,
        parent: QWidget,
        title: str,
        figures: Mapping[str, Mapping[str, Sequence[Moment]]],
        goal: int,
        current: str,
        palette: Palette,
    ) -> None:
        super().__init__(parent, title, translate("Gavotte", "Done"))
        self.no.hide()
        self._figures, self._goal, self._current, self._palette = figures, goal, current, palette
        self.figure = Choice()
        self.figure.setAccessibleName(translate("Gavotte", "What is shown over time"))
        for name in figures:
            self.figure.addItem(name, name)
        self.told = QLabel()
        self.told.setObjectName("quietBody")
        self.told.setWordWrap(True)
        self.content.addWidget(self.figure)
        self._plot = _plot(palette)
        self._plot.setMinimumSize(_WIDE, _HIGH)
        self.setMinimumSize(_WIDE + _AROUND, _HIGH + 4 * _AROUND)
        self.content.addWidget(self._plot, 1)
        self.content.addWidget(self.told)
        self.figure.activated.connect(lambda _: self._show())
        # What there is most to see of comes first.
        rich = [sum(map(len, figures[name].values())) for name in figures]
        self.figure.setCurrentIndex(rich.index(max(rich)) if rich and rich[0] < 2 else 0)
        self._show()

    def _show(self) -> None:
        import pyqtgraph

        name = str(self.figure.currentData())
        lines = self._figures.get(name, {})
        palette, plot = self._palette, self._plot.getPlotItem()
        plot.clear()
        is_tempo = name == next(iter(self._figures), "")
        for line, moments in sorted(lines.items(), key=lambda one: one[0] == self._current):
            is_current = line == self._current or len(lines) == 1
            colour = QColor(palette.accent if is_current else palette.faint_ink)
            plot.plot(
                [moment.seconds for moment in moments],
                [moment.value for moment in moments],
                pen=pyqtgraph.mkPen(colour, width=2.5 if is_current else 1.2),
                symbol="o",
                symbolSize=7 if is_current else 5,
                symbolBrush=colour,
                symbolPen=None,
                antialias=True,
            )
            words = pyqtgraph.TextItem(line, color=QColor(palette.text if is_current else palette.quiet_text))
            words.setFont(font(SMALL))
            words.setPos(moments[-1].seconds, moments[-1].value)
            if len(lines) > 1:
                plot.addItem(words)
        if is_tempo and lines:
            pen = pyqtgraph.mkPen(QColor(palette.quiet_text), style=Qt.PenStyle.DashLine)
            plot.addItem(pyqtgraph.InfiniteLine(self._goal, 0, pen))
        self._told(name, lines, is_tempo)

    def _told(self, name: str, lines: Mapping[str, Sequence[Moment]], is_tempo: bool) -> None:
        """Say what the picture shows, also to those who don't see it."""
        count = sum(map(len, lines.values()))
        self._plot.setVisible(count > 0)
        if not count:
            self.told.setText(translate("Gavotte", "Nothing is known yet: answer after playing, or record a take."))
            return
        parts = [f"{line}: {moments[0].value:.0f} → {moments[-1].value:.0f}" for line, moments in lines.items()]
        goal = translate("Gavotte", " The broken line is the goal, {goal}.").format(goal=self._goal) if is_tempo else ""
        self.told.setText(f"{', '.join(parts)}.{goal}")
        self._plot.setAccessibleName(name)
        self._plot.setAccessibleDescription(self.told.text())


def over_time_of(
    parent: QWidget, agenda: Agenda, takes: Sequence[tuple[str, KeptTake]], read: Read, palette: Palette
) -> OverTimeDialog:
    """What there is of what is on the stand: tempos from the log, and what its takes came to."""
    item, chosen = agenda.item, agenda.chosen
    assert item is not None
    assert chosen is not None
    names = [key_words(item, number, read) for number in range(MOST_KEYS)]
    by_key = {names[number]: found for number, found in tempos(agenda.entries_of(chosen[0]), chosen[0]).items()}
    judged = [(kept.at, kept.take) for _, kept in takes]
    figures: dict[str, Mapping[str, Sequence[Moment]]] = {
        translate("Gavotte", "Tempo, in beats a minute"): by_key,
        translate("Gavotte", "Right notes of its takes, in percent"): _line(rights(judged)),
        translate("Gavotte", "How far the notes of its takes lie from their time, in ms"): _line(lateness(judged)),
    }
    title = translate("Gavotte", "{name} over time").format(name=item.name)
    return OverTimeDialog(parent, title, figures, item.goal, names[chosen[1]], palette)


def _line(moments: Sequence[Moment]) -> dict[str, Sequence[Moment]]:
    """A curve of one line."""
    return {translate("Gavotte", "Takes"): moments} if moments else {}


def _plot(palette: Palette) -> Any:
    """An empty plot over days in a theme's colours, which can't be dragged about."""
    # Loaded here: importing it takes half a second.
    import pyqtgraph

    axis = pyqtgraph.DateAxisItem(orientation="bottom")
    plot = pyqtgraph.PlotWidget(background=QColor(palette.page), axisItems={"bottom": axis})
    item = plot.getPlotItem()
    item.setMenuEnabled(False)
    item.setMouseEnabled(False, False)
    item.hideButtons()
    item.showGrid(x=False, y=True, alpha=0.18)
    small: QFont = font(SMALL)
    for side in ("left", "bottom"):
        line = item.getAxis(side)
        line.setPen(QColor(palette.rule))
        line.setTextPen(QColor(palette.quiet_text))
        line.setStyle(tickFont=small)
    plot.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    return plot
