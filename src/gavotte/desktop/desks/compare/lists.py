"""Two lists of the Compare desk: what both sets have in common, and the solos nearest to the first."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtWidgets import QLabel, QVBoxLayout, QWidget

from gavotte.desktop.desks.compare.words import times_words
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.rows import RowList
from gavotte.library.reader import SoloEntry
from gavotte.profile.nearest import Near
from gavotte.profile.shared import InCommon

_MOST = 200


class ListView(QWidget):
    """``rows`` under a few words."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.rows = RowList(name)
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setObjectName("quietBody")
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 8, 16, 8)
        column.setSpacing(8)
        column.addWidget(self.message)
        column.addWidget(self.rows, 1)

    def set_palette(self, palette: Palette) -> None:
        """Paint in a theme's colours."""
        self.rows.set_palette(palette)

    def show_rows(self, rows: Sequence[tuple[str, str, str, str]], message: str) -> None:
        """List rows, each with an id, a name, a detail and words at the edge."""
        self.rows.blockSignals(True)
        self.rows.clear()
        for row in rows:
            self.rows.add_row(*row)
        self.rows.setCurrentRow(0 if rows else -1)
        self.rows.blockSignals(False)
        self.rows.setVisible(bool(rows))
        self.message.setText(message)


def common_rows(found: InCommon) -> tuple[list[tuple[str, str, str, str]], str]:
    """The cells of both sets as rows, and what is said of them."""
    rows = [
        (
            str(number),
            cell.degrees,
            cell.relation,
            f"{times_words(len(cell.here))} · {times_words(len(cell.there))}",
        )
        for number, cell in enumerate(found.cells[:_MOST])
    ]
    if not rows:
        return rows, translate("Gavotte", "Nothing recurs in both sets that is more than chance would bring.")
    words = translate(
        "Gavotte", "Cells that stand in both sets: {here} of the first one’s notes, {there} of the other’s."
    )
    return rows, words.format(here=f"{found.here:.0%}", there=f"{found.there:.0%}")


def near_rows(
    found: Sequence[tuple[str, Near]], entries: Sequence[SoloEntry], own: str
) -> tuple[list[tuple[str, str, str, str]], str]:
    """The nearest solos as rows, and what is said of them; ``own`` is what they are near to."""
    by_id = {entry.id: entry for entry in entries}
    rows = []
    for name, near in found:
        entry = by_id.get(name)
        if entry is None:
            continue
        alike = ", ".join(figure.words for figure in near.alike)
        like = translate("Gavotte", "alike in {figures}").format(figures=alike) if alike else ""
        detail = " · ".join(part for part in (entry.player, like) if part)
        rows.append((name, entry.title, detail, nearness(near.closeness)))
    if not rows:
        return rows, translate("Gavotte", "Four solos at least are needed to tell which are near one another.")
    words = translate("Gavotte", "The solos most like {own}, by all figures together; each is heard in what it shares.")
    return rows, words.format(own=own)


def nearness(closeness: float) -> str:
    """How near a solo is, in words."""
    if closeness > 0.5:
        return translate("Gavotte", "very near")
    if closeness > 0.2:
        return translate("Gavotte", "near")
    return translate("Gavotte", "as others") if closeness > -0.2 else translate("Gavotte", "unlike")
