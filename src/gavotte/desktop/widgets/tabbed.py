"""A panel beside the page: several pages, one of them shown, and a row of words to choose between them."""

from __future__ import annotations

import itertools
from collections.abc import Callable, Iterator, Sequence
from functools import partial

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtGui import QFontMetrics
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QPushButton, QStackedWidget, QVBoxLayout, QWidget

from gavotte.desktop.command import Command
from gavotte.desktop.theme.type import BODY, font
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.one_stop import OneStop

_AROUND = 14
"""Pixels on both sides of a tab's words."""


def _takes_keys(widget: QWidget) -> bool:
    return widget.isVisible() and widget.isEnabled() and bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)


def _inside(widget: QWidget) -> Iterator[QWidget]:
    """The widgets in a widget, in order. It is asked after every step, so only as many are looked at as need be."""
    for child in widget.children():
        if isinstance(child, QWidget):
            yield child
            yield from _inside(child)


class Tabbed(QWidget):
    """``tabs`` are the buttons by the names of their pages; a ``width`` of 0 leaves that to the layout. Signals:
    ``left``, the keys go back to where they were; ``turned``, another page is shown.
    """

    left = pyqtSignal()
    turned = pyqtSignal()

    def __init__(self, width: int) -> None:
        super().__init__()
        self.setObjectName("card")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        if width:
            self.setFixedWidth(width)
        self._stack = QStackedWidget()
        self._words: dict[str, str] = {}
        self.tabs: dict[str, QPushButton] = {}

    def add_pages(self, pages: Sequence[tuple[str, str, QWidget]]) -> None:
        """Put in the pages, as (name, words, page), and show the first."""
        row = QHBoxLayout()
        row.setContentsMargins(10, 8, 10, 8)
        row.setSpacing(0)
        group = OneStop(self)
        for name, words, page in pages:
            button = QPushButton(words)
            button.setObjectName("tab")
            button.setCheckable(True)
            button.clicked.connect(lambda _, n=name: self.show_page(n))
            button.toggled.connect(self._fit)
            group.addButton(button)
            row.addWidget(button)
            self.tabs[name], self._words[name] = button, words
            self._stack.addWidget(page)
        row.addStretch(1)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(row)
        column.addWidget(rule())
        column.addWidget(self._stack, 1)
        self.show_page(pages[0][0])
        self._stack.currentChanged.connect(lambda _: self.turned.emit())

    def _fit(self) -> None:
        """Leave room for the words of the page that is shown, which are bold."""
        for button in self.tabs.values():
            bold = QFontMetrics(font(BODY, 700)).horizontalAdvance(button.text()) + _AROUND
            button.setMinimumWidth(bold if button.isChecked() else 0)

    def show_page(self, name: str) -> None:
        """Show another page."""
        self.tabs[name].setChecked(True)
        self._stack.setCurrentIndex(list(self.tabs).index(name))

    def go_to(self, name: str) -> None:
        """Show a page and go into it; from inside it, back to where the keys were before."""
        focus = QApplication.focusWidget()
        is_inside = focus is not None and self.isAncestorOf(focus)
        if self.page_shown == name and is_inside:
            self.left.emit()
        else:
            self.show_page(name)
            self.place_for_keys().setFocus()

    def focus_of_page(self) -> QWidget:
        """Where the keys go best on the page that is shown."""
        return self

    def place_for_keys(self) -> QWidget:
        """Where the keys can go on the page that is shown: its best place, else the first there is."""
        page = self._stack.currentWidget()
        assert page is not None
        places = itertools.chain([self.focus_of_page()], _inside(page))
        return next(filter(_takes_keys, places), self.tabs[self.page_shown])

    @property
    def page_shown(self) -> str:
        """The name of the page that is shown."""
        return list(self.tabs)[self._stack.currentIndex()]

    def show_number(self, name: str, number: int) -> None:
        """Put a number behind the words of a tab: how many things wait there."""
        words = self._words[name]
        self.tabs[name].setText(f"{words} ({number})" if number else words)
        self._fit()

    def commands(
        self, desk: str, menu: tuple[str, ...], part: int, at: QWidget, enabled: Callable[[], bool]
    ) -> tuple[Command, ...]:
        """A command for each page, by Ctrl with its number: the same kind of key at every desk."""
        return tuple(
            Command(
                f"{desk}.page_{name}",
                self._words[name],
                partial(self.go_to, name),
                (f"Ctrl+{number}",),
                menu,
                part,
                (at,),
                enabled,
                buttons=(button,),
            )
            for number, (name, button) in enumerate(self.tabs.items(), 1)
        )
