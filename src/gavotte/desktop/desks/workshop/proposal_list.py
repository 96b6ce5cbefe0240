"""Proposals to compare: each a row with its words, its mini lane, its degrees and what kinds of notes it has."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QModelIndex, QRectF, QSize, Qt
from PyQt6.QtGui import QColor, QFontMetrics, QPainter
from PyQt6.QtWidgets import QListWidget, QListWidgetItem, QStyledItemDelegate, QStyleOptionViewItem

from gavotte.desktop.page.mini_lane import HEIGHT, paint_mini_lane
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, SMALL, font
from gavotte.desktop.widgets.rows import paint_ground
from gavotte.workshop.proposals import Proposal

_HEIGHT = 94


class _Painted(QStyledItemDelegate):
    def __init__(self, view: ProposalList) -> None:
        super().__init__(view)
        self._view = view

    def sizeHint(self, option: QStyleOptionViewItem, index: QModelIndex) -> QSize:
        return QSize(120, _HEIGHT)

    def paint(self, painter: QPainter | None, option: QStyleOptionViewItem, index: QModelIndex) -> None:
        assert painter is not None
        palette, rect = self._view.palette_in_use, option.rect
        proposal = self._view.proposals[index.row()]
        painter.save()
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_ground(painter, option, palette)
        room = rect.width() - 24
        words = proposal.words[0].upper() + proposal.words[1:] if proposal.words else ""
        for text, top, face, colour in (
            (words, 6, font(BODY, 500), palette.text),
            (proposal.degrees, 48, font(SMALL, 500), palette.text),
            (proposal.told, 68, font(SMALL), palette.quiet_text),
        ):
            painter.setPen(QColor(colour))
            painter.setFont(face)
            shown = QFontMetrics(face).elidedText(text, Qt.TextElideMode.ElideRight, room)
            painter.drawText(rect.adjusted(12, top, 0, 0), Qt.AlignmentFlag.AlignLeft, shown)
        lane = QRectF(rect.left() + 12, rect.top() + 27, room, HEIGHT)
        paint_mini_lane(painter, lane, proposal.line, palette)
        painter.restore()


class ProposalList(QListWidget):
    """Lists ``proposals``."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.palette_in_use: Palette = DAY
        self.proposals: tuple[Proposal, ...] = ()
        self.setAccessibleName(name)
        self.setMouseTracking(True)
        self.setItemDelegate(_Painted(self))
        self.setVerticalScrollMode(QListWidget.ScrollMode.ScrollPerPixel)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.palette_in_use = palette
        viewport = self.viewport()
        if viewport is not None:
            viewport.update()

    def show_proposals(self, proposals: Sequence[Proposal], chosen: int = -1) -> None:
        """List proposals; ``chosen`` is the one the chain has now."""
        self.blockSignals(True)
        self.clear()
        self.proposals = tuple(proposals)
        for proposal in proposals:
            item = QListWidgetItem(proposal.words)
            spoken = f"{proposal.words}: {proposal.degrees}, {proposal.told}"
            item.setData(Qt.ItemDataRole.AccessibleTextRole, spoken)
            item.setToolTip(f"{proposal.words}\n{proposal.degrees}\n{proposal.told}")
            self.addItem(item)
        self.setCurrentRow(chosen)
        self.blockSignals(False)

    def current(self) -> Proposal | None:
        """The row that is chosen."""
        row = self.currentRow()
        return self.proposals[row] if 0 <= row < len(self.proposals) else None
