"""The left side of the desk: what is asked for, and what answers."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from functools import lru_cache

from PyQt6.QtCore import Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QMenu, QPushButton, QStackedWidget, QToolButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.vocabulary.about_panel import stars
from gavotte.desktop.desks.vocabulary.cells_panel import CellsPanel
from gavotte.desktop.desks.vocabulary.lick_list import LickList, Row, notes_of
from gavotte.desktop.desks.vocabulary.played_panel import PlayedPanel
from gavotte.desktop.desks.vocabulary.search_line import SearchLine
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.one_stop import OneStop
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.library.lines import Index
from gavotte.library.reader import LickEntry, SoloEntry
from gavotte.library.searching import MOST_PLACES, Answer, Answers
from gavotte.solo.tags import read_tags
from gavotte.theory.key import Key
from gavotte.vocabulary.contexts import CONTEXTS
from gavotte.vocabulary.corpus import bars_words
from gavotte.vocabulary.lick import STATUSES
from gavotte.vocabulary.query import DEGREE_WORDS, DEVICE_MEANINGS, MARKERS
from gavotte.vocabulary.query import WAY_MEANINGS as WAYS

WIDTH = 330


class SearchPanel(QWidget):
    """``line`` is where one asks, ``contexts`` restricts it, ``licks`` lists what answers.

    Signals: ``asked``, something else is asked for; ``mode_changed(mode)``, other things are listed.
    """

    asked = pyqtSignal()
    mode_changed = pyqtSignal(str)

    def __init__(self) -> None:
        super().__init__()
        self.setFixedWidth(WIDTH)
        title = QLabel(translate("Gavotte", "Vocabulary"))
        title.setObjectName("title")
        self.number = QLabel()
        self.number.setObjectName("quiet")
        self.line = SearchLine()
        self.words = QToolButton()
        self.words.setText("+")
        self.words.setObjectName("transportButton")
        self.words.setAccessibleName(translate("Gavotte", "What can be asked for"))
        self.words.setToolTip(translate("Gavotte", "Put in what you ask for by the mouse"))
        self.words.setPopupMode(QToolButton.ToolButtonPopupMode.InstantPopup)
        self.menu = QMenu(self)
        self.menu.aboutToShow.connect(self._fill_menu)
        self.words.setMenu(self.menu)
        self.contexts = Choice()
        self.contexts.setAccessibleName(translate("Gavotte", "Harmonic context"))
        self.contexts.setToolTip(translate("Gavotte", "Only what is played over this"))
        self.message = QLabel()
        self.message.setWordWrap(True)
        self.message.setObjectName("quiet")
        self.keep_all = QPushButton(translate("Gavotte", "Keep these places…"))
        self.keep_all.setToolTip(translate("Gavotte", "Keep the places that answer as licks, as many as you tick"))
        self.licks = LickList(translate("Gavotte", "Licks"))
        self.cells, self.players = CellsPanel(), RowList(translate("Gavotte", "Players"))
        self._modes = OneStop(self)
        self.modes: dict[str, QPushButton] = {}
        self._stack = QStackedWidget()
        head = QHBoxLayout()
        head.addWidget(title)
        head.addStretch(1)
        head.addWidget(self.number, 0, Qt.AlignmentFlag.AlignBottom)
        asking = QHBoxLayout()
        asking.setSpacing(4)
        asking.addWidget(self.line, 1)
        asking.addWidget(self.words)
        self.played = PlayedPanel()
        self.keys = QToolButton()
        self.keys.setText("♪")
        self.keys.setObjectName("transportButton")
        self.keys.setCheckable(True)
        self.keys.setAccessibleName(translate("Gavotte", "Play or tap what you look for"))
        self.keys.setToolTip(translate("Gavotte", "Play a line on the keys, or tap its rhythm"))
        self.keys.toggled.connect(self._show_keys)
        self.played.put_in.connect(self.line.put_in)
        asking.addWidget(self.keys)
        searching = QWidget()
        inner = QVBoxLayout(searching)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.setSpacing(8)
        inner.addLayout(asking)
        inner.addWidget(self.played)
        inner.addWidget(self.contexts)
        inner.addWidget(self.message)
        inner.addWidget(self.licks, 1)
        inner.addWidget(self.keep_all)
        choosing = QHBoxLayout()
        choosing.setSpacing(6)
        for name, words, tip, page in (
            (
                "licks",
                translate("Gavotte", "Licks"),
                translate("Gavotte", "What was kept, and what answers"),
                searching,
            ),
            ("cells", translate("Gavotte", "Cells"), translate("Gavotte", "What recurs in all solos"), self.cells),
            (
                "players",
                translate("Gavotte", "Players"),
                translate("Gavotte", "What players do how often"),
                self.players,
            ),
        ):
            button = QPushButton(words)
            button.setCheckable(True)
            button.setToolTip(tip)
            self.modes[name] = button
            self._modes.addButton(button)
            choosing.addWidget(button, 1)
            self._stack.addWidget(page)
        self.modes["licks"].setChecked(True)
        column = QVBoxLayout(self)
        column.setContentsMargins(20, 16, 12, 16)
        column.setSpacing(8)
        column.addLayout(head)
        column.addLayout(choosing)
        column.addWidget(self._stack, 1)
        self._modes.buttonClicked.connect(lambda _: self._turn())
        self._show_contexts({})
        self.line.asked.connect(self.asked)
        self.line.returnPressed.connect(self.licks.setFocus)
        self.contexts.activated.connect(lambda _: self.asked.emit())

    def _show_keys(self, shown: bool) -> None:
        self.played.setVisible(shown)
        if shown:
            self.played.begin()
        else:
            self.played.end()

    @property
    def mode(self) -> str:
        """What is listed: "licks", "cells" or "players"."""
        return next(name for name, button in self.modes.items() if button.isChecked())

    def turn_to(self, mode: str) -> None:
        """List something else."""
        self.modes[mode].setChecked(True)
        self._turn()

    def _turn(self) -> None:
        self.number.setVisible(self.mode == "licks")
        self._stack.setCurrentIndex(list(self.modes).index(self.mode))
        self.mode_changed.emit(self.mode)

    def focus_of_mode(self) -> QWidget:
        """Where the keys go."""
        return {"licks": self.licks, "cells": self.cells.cells, "players": self.players}[self.mode]

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.licks.set_palette(palette)
        self.cells.set_palette(palette)
        self.players.set_palette(palette)
        self.line.palette_in_use = palette
        self.played.set_palette(palette)
        self.line.update()

    @property
    def places(self) -> tuple[Row, ...]:
        """The places of solos that are listed."""
        return tuple(row for row in self.licks.rows if not row.is_lick and not row.is_heading)

    @property
    def context(self) -> str:
        """The context that is chosen, "" for any."""
        return str(self.contexts.currentData() or "")

    def choose_context(self, context: str) -> None:
        """Choose a context; "" for any."""
        self.contexts.setCurrentIndex(max(0, self.contexts.findData(context)))
        self.asked.emit()

    def show_library(self, licks: Sequence[LickEntry], solos: Sequence[SoloEntry]) -> None:
        """Offer the players, tags and contexts there are."""
        players = dict.fromkeys([*(lick.player for lick in licks), *(solo.player for solo in solos)])
        self.line.players = tuple(player for player in players if player)
        self.line.tags = known_tags(licks)
        counts: dict[str, int] = {}
        for lick in licks:
            for name in filter(None, lick.contexts.split("; ")):
                counts[name] = counts.get(name, 0) + 1
        self._show_contexts(counts)

    def show_players(self, players: Sequence[str], solos: Iterable[SoloEntry]) -> None:
        """List the players, with how much there is by each."""
        by: dict[str, list[SoloEntry]] = {}
        for solo in solos:
            by.setdefault(solo.player, []).append(solo)
        chosen = self.players.current_id()
        self.players.blockSignals(True)
        self.players.clear()
        for player in players:
            own = by[player]
            notes = counted(sum(solo.notes for solo in own), "note")
            self.players.add_row(player, player, f"{counted(len(own), 'solo')}, {notes}")
        if not self.players.select_id(chosen) and self.players.count():
            self.players.setCurrentRow(0)
        self.players.blockSignals(False)

    def _show_contexts(self, counts: Mapping[str, int]) -> None:
        chosen = self.context
        names = [name for name in CONTEXTS if name in counts]
        names += [name for name in CONTEXTS if name not in counts]
        self.contexts.blockSignals(True)
        self.contexts.clear()
        self.contexts.addItem(translate("Gavotte", "Over any chords"), "")
        for name in names:
            self.contexts.addItem(f"{name} ({counts[name]})" if name in counts else name, name)
        self.contexts.setCurrentIndex(max(0, self.contexts.findData(chosen)))
        self.contexts.blockSignals(False)

    def _fill_menu(self) -> None:
        self.menu.clear()
        quoted = [f'"{name}"' if " " in name else name for name in self.line.players]
        parts: tuple[tuple[str, Sequence[tuple[str, str]]], ...] = (
            (translate("Gavotte", "Function or figure"), [(w, f"{w} – {m}") for w, m in DEVICE_MEANINGS.items()]),
            (translate("Gavotte", "Degree"), [(w, w) for w in DEGREE_WORDS]),
            (translate("Gavotte", "Direction"), [(w, f"{w} – {m}") for w, m in WAYS]),
            (translate("Gavotte", "First note"), [(f"from {w}", w) for w in DEGREE_WORDS]),
            (translate("Gavotte", "Last note"), [(f"to {w}", w) for w in DEGREE_WORDS]),
            (translate("Gavotte", "Highest note"), [(f"highest {w}", w) for w in DEGREE_WORDS]),
            (translate("Gavotte", "Length"), [(f"notes {w}", w) for w in ("2-4", "5-8", "9-16", "17-64")]),
            (translate("Gavotte", "Player"), [(f"by {w}", w.strip('"')) for w in quoted]),
            (translate("Gavotte", "Tag"), [(f'tag "{w}"', w) for w in self.line.tags]),
            (translate("Gavotte", "Status"), [(f"status {w}", w) for w in STATUSES]),
            (translate("Gavotte", "Another word"), [(w, f"{w} – {m}") for w, m in MARKERS.items()]),
        )
        for words, entries in parts:
            if not entries:
                continue
            submenu = self.menu.addMenu(words)
            assert submenu is not None
            for word, shown in entries:
                action = submenu.addAction(shown)
                assert action is not None
                action.triggered.connect(lambda _, text=word: self.line.put_in(f"{text} "))

    def show_answers(
        self,
        answers: Answers,
        index: Index,
        licks: Mapping[str, LickEntry],
        solos: Mapping[str, SoloEntry],
        still_going: bool = False,
    ) -> None:
        """List what answers: licks first, then places that were not kept. ``still_going``: more may answer later."""
        self.licks.notes_of = lambda row: notes_of(index, row)
        rows = [lick_row(licks[answer.owner], answer) for answer in answers.licks if answer.owner in licks]
        number = counted(len(rows), "lick")
        if answers.places:
            some = translate("Gavotte", "the first {number} places").format(number=MOST_PLACES)
            many = some if answers.more else counted(len(answers.places), "place")
            rows.append(
                Row(translate("Gavotte", "In your solos, not kept: {number}").format(number=many), is_heading=True)
            )
            for answer in answers.places:
                solo, line = solos[answer.owner], index.solos.corpus.lines[index.solos.number_of[answer.owner]]
                rows.append(
                    Row(
                        answer.why,
                        ", ".join(
                            filter(None, (solo.title, bars_words(line.notes, answer.first, answer.last), solo.player))
                        ),
                        owner=solo.id,
                        first=answer.first,
                        last=answer.last,
                        marked=frozenset(answer.marked),
                    )
                )
        self.keep_all.setVisible(bool(answers.places))
        self.number.setText(number)
        self.licks.show_rows(rows)
        self._show_message(bool(rows), still_going)

    def _show_message(self, some: bool, still_going: bool) -> None:
        if still_going:
            words = translate("Gavotte", "Not all of the library has been gone through yet: more may answer.")
        else:
            words = "" if some else translate("Gavotte", "Nothing in the vocabulary or in your solos answers.")
        self._say(words, "quiet")

    def show_error(self) -> None:
        """Say why the line can't be read; what answered before stays."""
        self._say(self.line.error, "warning")

    def _say(self, text: str, how: str) -> None:
        self.message.setText(text)
        self.message.setVisible(bool(text))
        if self.message.objectName() != how:
            self.message.setObjectName(how)
            self.message.setStyleSheet(self.message.styleSheet())


def lick_row(lick: LickEntry, answer: Answer) -> Row:
    """The row of a lick that answers."""
    part = answer.last - answer.first + 1 < lick.notes
    return Row(
        lick.name,
        f"{lick.source} · {_key_words(lick.key)}",
        stars(lick.rating),
        lick.id,
        is_lick=True,
        last=-1,
        marked=frozenset(answer.marked or (range(answer.first, answer.last + 1) if part else ())),
    )


@lru_cache(maxsize=256)
def _key_words(key: str) -> str:
    return Key.parse(key).shown


def known_tags(licks: Sequence[LickEntry]) -> tuple[str, ...]:
    """Every tag there is, in order."""
    return tuple(sorted({tag for lick in licks for tag in read_tags(lick.tags)}))
