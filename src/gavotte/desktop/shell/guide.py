"""The guide, read inside the application: chapters on the left, the one that is read on the right."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import Qt, QUrl, QVariant
from PyQt6.QtGui import (
    QColor,
    QImage,
    QKeySequence,
    QPalette,
    QShortcut,
    QTextBlock,
    QTextCharFormat,
    QTextCursor,
    QTextDocument,
)
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QSplitter, QTextBrowser, QVBoxLayout, QWidget

from gavotte.desktop.shell.guide_pages import INDEX, Chapter, chapters, holding, page
from gavotte.desktop.theme.palette import DAY, Palette
from gavotte.desktop.theme.type import BODY, FAMILY, font
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.rows import RowList

_WIDE, _HIGH, _PICTURE = 980, 720, 560
_LINE = 118
"""Per cent of the usual height of a line."""
_PROPORTIONAL = 1
"""What a text block takes such a height by: QTextBlockFormat.LineHeightTypes.ProportionalHeight."""


class _Page(QTextBrowser):
    """Shows a page; pictures are made as wide as the text."""

    def __init__(self, folder: Path) -> None:
        super().__init__()
        self._folder = folder
        self.setOpenLinks(False)
        self.setFont(font(BODY))
        self.setAccessibleName(translate("Gavotte", "Chapter"))

    def loadResource(self, type: int, name: QUrl) -> object:
        path = (self._folder / name.toString()).resolve()
        is_picture = type == QTextDocument.ResourceType.ImageResource.value
        # Nothing is fetched from anywhere but the guide's own folders.
        if not is_picture or self._folder.resolve().parent not in path.parents:
            return QVariant()
        picture = QImage(str(path))
        return picture.scaledToWidth(_PICTURE, Qt.TransformationMode.SmoothTransformation)


def _fixed(block: QTextBlock) -> list[tuple[int, int]]:
    """The stretches of a block that are set as code: where they begin and end in the document."""
    found, fragments = [], block.begin()
    while not fragments.atEnd():
        fragment = fragments.fragment()
        if fragment.isValid() and fragment.charFormat().fontFixedPitch():
            found.append((fragment.position(), fragment.position() + fragment.length()))
        fragments += 1
    return found


class GuideWindow(QDialog):
    """``shown`` is the file of the page that is read."""

    def __init__(self, parent: QWidget, folder: Path) -> None:
        super().__init__(parent)
        self._folder = folder
        self.setWindowTitle(translate("Gavotte", "The guide"))
        self.resize(_WIDE, _HIGH)
        self.search = Line()
        self.search.setPlaceholderText(translate("Gavotte", "Find in the guide"))
        self.search.setAccessibleName(translate("Gavotte", "Find in the guide"))
        self.search.setClearButtonEnabled(True)
        self.chapters = RowList(translate("Gavotte", "Chapters"))
        self.page = _Page(folder)
        self.shown, self._palette = "", DAY
        left = QWidget()
        column = QVBoxLayout(left)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(8)
        column.addWidget(self.search)
        column.addWidget(self.chapters, 1)
        split = QSplitter()
        split.addWidget(left)
        split.addWidget(self.page)
        split.setSizes([300, _WIDE - 300])
        split.setStretchFactor(1, 1)
        row = QHBoxLayout(self)
        row.setContentsMargins(12, 12, 12, 12)
        row.addWidget(split)
        self.set_palette(DAY)
        self._list(chapters(folder))
        self.chapters.currentRowChanged.connect(lambda _: self._open_current())
        self.search.textChanged.connect(lambda _: self._find())
        self.search.returnPressed.connect(self._find_next)
        self.page.anchorClicked.connect(self._follow)
        QShortcut(QKeySequence.StandardKey.Find, self).activated.connect(self.search.setFocus)
        QShortcut(QKeySequence("F3"), self).activated.connect(self._find_next)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.chapters.set_palette(palette)
        self._palette = palette
        colours = self.page.palette()
        colours.setColor(QPalette.ColorRole.Link, QColor(palette.accent))
        self.page.setPalette(colours)
        if self.shown:
            self.read(self.shown)

    def _list(self, found: tuple[Chapter, ...]) -> None:
        self.chapters.blockSignals(True)
        self.chapters.clear()
        for chapter in found:
            self.chapters.add_row(chapter.file, chapter.title, chapter.about)
        self.chapters.blockSignals(False)

    def read(self, file: str) -> None:
        """Show a page of the guide."""
        self.shown = file
        self.page.setMarkdown(page(self._folder, file))
        self._set_out()
        self.page.moveCursor(self.page.textCursor().MoveOperation.Start)
        self.chapters.blockSignals(True)
        if not self.chapters.select_id(file):
            self.chapters.clearSelection()
        self.chapters.blockSignals(False)

    def _set_out(self) -> None:
        """Give what Markdown says nothing of: room around headings and paragraphs, and a ground under keys."""
        document = self.page.document()
        assert document is not None
        document.setDocumentMargin(20)
        whole = QTextCursor(document)
        # As one edit: the page is laid out once, not after each key.
        whole.beginEditBlock()
        block = document.begin()
        while block.isValid():
            cursor, shape = QTextCursor(block), block.blockFormat()
            shape.setTopMargin(16 if shape.headingLevel() > 1 else 4)
            shape.setBottomMargin(6)
            if "￼" not in block.text():
                # A picture stands in its line, which is high enough.
                shape.setLineHeight(_LINE, _PROPORTIONAL)
            cursor.setBlockFormat(shape)
            for start, end in _fixed(block):
                cursor.setPosition(start)
                cursor.setPosition(end, QTextCursor.MoveMode.KeepAnchor)
                key = QTextCharFormat()
                key.setFontFamilies([FAMILY])
                key.setFontFixedPitch(False)
                key.setBackground(QColor(self._palette.chrome))
                key.setFontWeight(500)
                cursor.mergeCharFormat(key)
            block = block.next()
        whole.endEditBlock()

    def _open_current(self) -> None:
        file = self.chapters.current_id()
        if file is not None:
            self.read(file)
            self._find_next()

    def _find(self) -> None:
        """List the chapters that hold what is typed, and show where it stands in the first of them."""
        found = holding(self._folder, self.search.text())
        self._list(found)
        if found and self.shown not in {chapter.file for chapter in found}:
            self.read(found[0].file)
        else:
            self.chapters.select_id(self.shown)
        self.page.moveCursor(self.page.textCursor().MoveOperation.Start)
        self._find_next()

    def _find_next(self) -> None:
        """Go to where the first word that is looked for stands next."""
        words = self.search.text().split()
        if words and not self.page.find(words[0]):
            self.page.moveCursor(self.page.textCursor().MoveOperation.Start)
            self.page.find(words[0])

    def _follow(self, link: QUrl) -> None:
        """Go to another chapter; a link that leads out of the guide is not followed."""
        file = link.path()
        if link.isRelative() and (file == INDEX or file in {chapter.file for chapter in chapters(self._folder)}):
            self.search.clear()
            self.read(file)
