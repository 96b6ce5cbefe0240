"""A picture of both sets that can be pointed at: what is under the pointer or chosen by the arrows is told."""

from __future__ import annotations

from PyQt6.QtCore import QEvent, QPoint, QRectF, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QHelpEvent, QKeyEvent, QMouseEvent, QPainter, QPaintEvent, QPen, QResizeEvent
from PyQt6.QtWidgets import QToolTip, QWidget

from gavotte.desktop.desks.compare.pictures import Picture, Shown, Spot, height_of, paint_picture
from gavotte.desktop.painting import painting
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.translation import translate

_EDGE = 16.0


class PictureView(QWidget):
    """Shows a picture; ``figure`` is the name of the one that is looked at. Signal: ``figure_chosen(name)``."""

    figure_chosen = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self._palette: Palette = DAY
        self._shown: Shown | None = None
        self.picture, self.figure = Picture.LADDERS, ""
        self.spots: list[Spot] = []
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setMouseTracking(True)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self._palette = palette
        self.update()

    def show_picture(self, picture: Picture, shown: Shown | None) -> None:
        """Show a picture of two sets."""
        self.picture, self._shown = picture, shown
        self._fit()
        self.setAccessibleName(picture_words(picture))
        self.spots = []
        self.update()

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        self._fit()

    def _fit(self) -> None:
        if self._shown is not None:
            self.setMinimumHeight(int(height_of(self.picture, self._shown, self.width() - 2 * _EDGE) + 2 * _EDGE))

    def paintEvent(self, event: QPaintEvent | None) -> None:
        if self._shown is None:
            return
        with painting(self) as painter:
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            area = QRectF(self.rect()).adjusted(_EDGE, _EDGE / 2, -_EDGE, -_EDGE / 2)
            self.spots = paint_picture(painter, area, self.picture, self._shown, self._palette)
            chosen = next((spot for spot in self.spots if spot.figure == self.figure), None)
            if chosen is not None:
                painter.setBrush(Qt.BrushStyle.NoBrush)
                painter.setPen(QPen(QColor(self._palette.accent), 2 if self.hasFocus() else 1.2))
                painter.drawRoundedRect(chosen.area.adjusted(-1, -1, 1, 1), 3, 3)

    def _at(self, place: QPoint) -> Spot | None:
        return next((spot for spot in self.spots if spot.area.contains(place.toPointF())), None)

    def event(self, event: QEvent | None) -> bool:
        if isinstance(event, QHelpEvent) and event.type() == QEvent.Type.ToolTip:
            spot = self._at(event.pos())
            QToolTip.showText(event.globalPos(), spot.words if spot is not None else "", self)
            return True
        return super().event(event)

    def mousePressEvent(self, event: QMouseEvent | None) -> None:
        spot = self._at(event.position().toPoint()) if event is not None else None
        if spot is not None:
            self._choose(spot)

    def keyPressEvent(self, event: QKeyEvent | None) -> None:
        steps = {Qt.Key.Key_Down: 1, Qt.Key.Key_Right: 1, Qt.Key.Key_Up: -1, Qt.Key.Key_Left: -1}
        key = Qt.Key(event.key()) if event is not None else Qt.Key.Key_unknown
        if key not in steps or not self.spots:
            super().keyPressEvent(event)
            return
        names = [spot.figure for spot in self.spots]
        at = names.index(self.figure) + steps[key] if self.figure in names else 0
        self._choose(self.spots[max(0, min(len(self.spots) - 1, at))])

    def _choose(self, spot: Spot) -> None:
        self.figure = spot.figure
        self.setAccessibleDescription(spot.words)
        self.update()
        self.figure_chosen.emit(spot.figure)


def picture_words(picture: Picture) -> str:
    """What a picture is called."""
    return {
        Picture.LADDERS: translate("Gavotte", "Degrees over each kind of chord"),
        Picture.BEATS: translate("Gavotte", "Functions by beat"),
        Picture.FORM: translate("Gavotte", "Register and density over the form"),
        Picture.LANDINGS: translate("Gavotte", "Landings and targets"),
    }[picture]
