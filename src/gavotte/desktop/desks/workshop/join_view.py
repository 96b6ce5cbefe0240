"""Source and result joined note by note: where each note came from, and what it cost."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QPointF, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QMouseEvent, QPainter, QPaintEvent, QPen
from PyQt6.QtWidgets import QWidget

from gavotte.desktop.page.mini_lane import paint_function
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import SMALL, font
from gavotte.desktop.translation import translate
from gavotte.solo.document import Note
from gavotte.solo.label import Label
from gavotte.workshop.cost import Cost, Toll
from gavotte.workshop.piece import Piece

_LEFT, _HEIGHT = 20, 92
_UPPER, _LOWER = 26.0, 72.0
_NARROWEST = 18.0
_SIGNS = {Toll.CLASH: "×", Toll.RANGE: "↕", Toll.LEAP: "↯"}


class JoinView(QWidget):
    """Shows the notes of a source above those of a result. As many of these are shown as there is room for, about the
    note where the user is; pointed at, a note tells what became of it.
    """

    def __init__(self) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self._pieces: tuple[Piece, Piece] | None = None
        self._cost: Cost | None = None
        self._current: str | None = None
        self._from: list[int | None] = []
        self.setFixedHeight(_HEIGHT)
        self.setMouseTracking(True)

    def sizeHint(self) -> QSize:
        return QSize(400, _HEIGHT)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        self.update()

    def show_pieces(self, source: Piece, result: Piece, cost: Cost) -> None:
        """Show a source and what was made of it."""
        self._pieces, self._cost = (source, result), cost
        places = source.solo.places
        self._from = [places.get(result.origins.get(note.id, "")) for note in result.solo.notes]
        self.setAccessibleName(
            translate("Gavotte", "Source and result, note by note: {words}").format(words=cost.words)
        )
        self.update()

    def clear(self) -> None:
        """Show nothing."""
        self._pieces, self._cost = None, None
        self.update()

    def show_current(self, note: str | None) -> None:
        """Show the part of the result about a note (id)."""
        if note != self._current:
            self._current = note
            self.update()

    def told(self, note: str) -> str:
        """What became of a note of the result, in words."""
        if self._pieces is None or self._cost is None:
            return ""
        source, result = self._pieces
        origin = result.origins.get(note)
        said = []
        if origin is None or origin not in source.solo.places:
            said.append(translate("Gavotte", "added here"))
        else:
            label = _label(source, origin)
            pitch = source.solo.note(origin).pitch.shown
            words = translate("Gavotte", "was {pitch}, the {degree}") if label else translate("Gavotte", "was {pitch}")
            said.append(words.format(pitch=pitch, degree=label.shown_degree if label else ""))
        said += [str(toll.value) for toll in Toll if toll in self._cost.tolls.get(note, ())]
        return ", ".join(said)

    # -- painting -----------------------------------------------------------------------------------

    def _stretch(self) -> range:
        """The places of the result's notes that are shown: those about the note where the user is that go once through
        the source, as many as there is room for.
        """
        assert self._pieces is not None
        result = self._pieces[1]
        room = max(4, int((self.width() - 2 * _LEFT) / _NARROWEST))
        here = result.solo.places.get(self._current, 0) if self._current is not None else 0
        before = self._from
        first = last = here
        while first and here - first <= room and self._goes_on(before[first - 1], before[first]):
            first -= 1
        while last + 1 < len(before) and last - first <= 2 * room and self._goes_on(before[last], before[last + 1]):
            last += 1
        if last - first >= room:
            first = max(first, here - room // 2)
        return range(first, min(last + 1, first + room))

    @staticmethod
    def _goes_on(origin: int | None, following: int | None) -> bool:
        """Whether a note goes on through the source from the one before it."""
        return origin is None or following is None or origin < following

    def paintEvent(self, event: QPaintEvent | None) -> None:
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            painter.fillRect(self.rect(), QColor(self.palette_in_use.well))
            if self._pieces is None:
                return
            source, result = self._pieces
            shown = self._stretch()
            below = result.solo.notes[shown.start : shown.stop]
            wanted = [result.origins.get(note.id) for note in below]
            used = [source.solo.places[name] for name in wanted if name is not None and name in source.solo.places]
            span = range(min(used, default=0), max(used, default=min(len(source.solo.notes), len(below)) - 1) + 1)
            above = source.solo.notes[span.start : span.stop][: max(1, int((self.width() - 2 * _LEFT) / _NARROWEST))]
            xs_above, xs_below = self._places(above), self._places(below)
            self._join(painter, above, below, xs_above, xs_below, result)
            self._row(painter, source, above, xs_above, _UPPER, None)
            self._row(painter, result, below, xs_below, _LOWER, self._cost)

    def _places(self, notes: Sequence[Note]) -> list[float]:
        """Where notes stand: in time, never too near to each other."""
        if not notes:
            return []
        room = self.width() - 2 * _LEFT
        start, end = float(notes[0].onset), float(notes[-1].onset)
        width = min(room, 34.0 * len(notes))
        xs: list[float] = []
        least = min(_NARROWEST, width / len(notes))
        for note in notes:
            x = _LEFT + 8 + (float(note.onset) - start) / max(0.25, end - start) * (width - 24)
            xs.append(max(x, xs[-1] + least) if xs else x)
        return xs

    def _join(
        self,
        painter: QPainter,
        above: Sequence[Note],
        below: Sequence[Note],
        xs_above: Sequence[float],
        xs_below: Sequence[float],
        result: Piece,
    ) -> None:
        palette = self.palette_in_use
        where = {note.id: x for note, x in zip(above, xs_above, strict=True)}
        for note, x in zip(below, xs_below, strict=True):
            origin = where.get(result.origins.get(note.id, ""))
            if origin is None:
                continue
            tolls = self._cost.tolls.get(note.id, frozenset()) if self._cost is not None else frozenset()
            changed = bool({Toll.DEGREE, Toll.GOAL} & tolls)
            style = Qt.PenStyle.DotLine if changed else Qt.PenStyle.SolidLine
            painter.setPen(QPen(QColor(palette.quiet_text if changed else palette.accent), 1.3, style))
            painter.drawLine(QPointF(origin, _UPPER + 15), QPointF(x, _LOWER - 17))

    def _row(
        self,
        painter: QPainter,
        piece: Piece,
        notes: Sequence[Note],
        xs: Sequence[float],
        ground: float,
        cost: Cost | None,
    ) -> None:
        palette, places = self.palette_in_use, piece.solo.places
        labels = piece.labelled.labels
        painter.setPen(QPen(QColor(palette.rule), 1))
        if xs:
            painter.drawLine(QPointF(xs[0] - 8, ground), QPointF(xs[-1] + 8, ground))
        for note, x in zip(notes, xs, strict=True):
            label = labels[places[note.id]]
            target = places.get(label.target) if label.target is not None else None
            paint_function(painter, x, ground, label.function, palette, target is None or target > places[note.id])
            tolls = cost.tolls.get(note.id, frozenset()) if cost is not None else frozenset()
            hard = next((sign for toll, sign in _SIGNS.items() if toll in tolls), "")
            changed = bool(tolls)
            painter.setFont(font(SMALL, 700 if changed else 400))
            painter.setPen(QColor(palette.warning if hard else palette.text))
            box = QRectF(x - 18, ground + 1, 36, 15)
            painter.drawText(box, Qt.AlignmentFlag.AlignCenter, f"{hard}{label.shown_degree}")
            if note.id == self._current and cost is not None:
                painter.setPen(QPen(QColor(palette.accent), 1.6))
                painter.drawLine(QPointF(x - 8, ground + 17), QPointF(x + 8, ground + 17))

    def mouseMoveEvent(self, event: QMouseEvent | None) -> None:
        if event is None or self._pieces is None:
            return
        result, shown = self._pieces[1], self._stretch()
        notes = result.solo.notes[shown.start : shown.stop]
        xs = self._places(notes)
        x = event.position().x()
        near = min(zip(xs, notes, strict=True), key=lambda pair: abs(pair[0] - x), default=None)
        self.setToolTip(self.told(near[1].id) if near is not None and abs(near[0] - x) < _NARROWEST else "")


def _label(piece: Piece, note: str) -> Label | None:
    place = piece.solo.places.get(note)
    return None if place is None else piece.labelled.labels[place]
