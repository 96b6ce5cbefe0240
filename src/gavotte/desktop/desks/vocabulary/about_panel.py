"""What there is to know of a lick, and what its user says of it."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from PyQt6.QtCore import QEvent, QObject, QStringListModel, Qt, pyqtSignal
from PyQt6.QtWidgets import QCompleter, QGridLayout, QHBoxLayout, QLabel, QPlainTextEdit, QPushButton, QWidget

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.widgets.suggestion_list import SuggestionList
from gavotte.solo.tags import read_tags, written_tags
from gavotte.vocabulary.lick import MOST_STARS, STATUSES, Lick

STATUS_WORDS = {
    "new": QT_TRANSLATE_NOOP("Gavotte", "New"),
    "learning": QT_TRANSLATE_NOOP("Gavotte", "Learning"),
    "mine": QT_TRANSLATE_NOOP("Gavotte", "Mine"),
}


def stars(rating: int) -> str:
    """A rating as stars, "" for none."""
    return "★" * rating


class AboutPanel(QWidget):
    """Shows a lick's contexts and source, and takes status, stars, tags and words.

    Signals: ``status_wanted(status)``, ``rating_wanted(stars)``, ``tags_wanted(tags)``, ``words_wanted(words)``,
    ``follow_wanted``: take over what was corrected in its solo.
    """

    status_wanted = pyqtSignal(str)
    rating_wanted = pyqtSignal(int)
    tags_wanted = pyqtSignal(tuple)
    words_wanted = pyqtSignal(str)
    follow_wanted = pyqtSignal()

    def __init__(self) -> None:
        super().__init__()
        self._lick: Lick | None = None
        self.status = Choice()
        self.status.setAccessibleName(translate("Gavotte", "How far you are with it"))
        self.status.setToolTip(translate("Gavotte", "How far you are with it"))
        for status in STATUSES:
            self.status.addItem(said(STATUS_WORDS[status]), status)
        self.rating = Choice()
        self.rating.setAccessibleName(translate("Gavotte", "Stars"))
        self.rating.setToolTip(translate("Gavotte", "What it is worth to you"))
        self.rating.addItem(translate("Gavotte", "No stars"), 0)
        for number in range(1, MOST_STARS + 1):
            self.rating.addItem(stars(number), number)
        self.tags = Line()
        self._known_tags = QStringListModel(self)
        completer = QCompleter(self._known_tags, self)
        completer.setCaseSensitivity(Qt.CaseSensitivity.CaseInsensitive)
        self.tags.setCompleter(completer)
        self._suggested = SuggestionList(completer, self.tags)
        self.tags.setAccessibleName(translate("Gavotte", "Tags"))
        self.tags.setPlaceholderText(translate("Gavotte", "Tags, with commas between"))
        self.tags.setToolTip(translate("Gavotte", "Your own words to find it by, with commas between"))
        self.words = QPlainTextEdit()
        self.words.setAccessibleName(translate("Gavotte", "Your words about it"))
        self.words.setPlaceholderText(translate("Gavotte", "What you think of it, and what you do with it"))
        self.words.setToolTip(translate("Gavotte", "Your own words about it; the search finds them with “named”"))
        self.words.setTabChangesFocus(True)
        self.words.installEventFilter(self)
        self.contexts, self.goal, self.link = QLabel(), QLabel(), QLabel()
        for label in (self.contexts, self.goal, self.link):
            label.setWordWrap(True)
            label.setAlignment(Qt.AlignmentFlag.AlignTop)
        self.follow = QPushButton(translate("Gavotte", "Follow the solo"))
        self.follow.setToolTip(translate("Gavotte", "Take over the notes and chords as they are in the solo now"))
        self._lay_out()
        self.status.activated.connect(lambda _: self.status_wanted.emit(self.status.currentData()))
        self.rating.activated.connect(lambda _: self.rating_wanted.emit(self.rating.currentData()))
        self.tags.editingFinished.connect(self._tags_written)
        self.follow.clicked.connect(self.follow_wanted)

    def _lay_out(self) -> None:
        grid = QGridLayout(self)
        grid.setContentsMargins(16, 12, 16, 12)
        grid.setHorizontalSpacing(12)
        grid.setVerticalSpacing(8)
        self._rows: list[QLabel] = []
        choices = QHBoxLayout()
        choices.setSpacing(8)
        choices.addWidget(self.status)
        choices.addWidget(self.rating)
        choices.addWidget(self.tags, 1)
        grid.addLayout(choices, 0, 0, 1, 2)
        grid.addWidget(self.words, 1, 0, 4, 1)
        facts = QGridLayout()
        facts.setHorizontalSpacing(12)
        facts.setVerticalSpacing(6)
        for row, (words, label) in enumerate(
            (
                (translate("Gavotte", "Played over"), self.contexts),
                (translate("Gavotte", "Goes to"), self.goal),
                (translate("Gavotte", "Its solo"), self.link),
            )
        ):
            caption = QLabel(words)
            caption.setObjectName("quiet")
            caption.setAlignment(Qt.AlignmentFlag.AlignTop)
            facts.addWidget(caption, row, 0)
            facts.addWidget(label, row, 1)
        facts.addWidget(self.follow, 3, 1, Qt.AlignmentFlag.AlignLeft)
        facts.setColumnStretch(1, 1)
        facts.setRowStretch(4, 1)
        grid.addLayout(facts, 1, 1, 4, 1)
        grid.setColumnStretch(0, 1)
        grid.setColumnStretch(1, 1)

    def show_lick(self, lick: Lick | None, known_tags: Sequence[str] = (), is_kept: bool = True) -> None:
        """Show what is said of a lick; of one that is not kept only what it says itself."""
        if lick is not self._lick:
            self.keep()
        self._lick = lick
        if lick is None:
            return
        for widget in (self.status, self.rating, self.tags, self.words):
            widget.setVisible(is_kept)
        self.contexts.setText(", ".join(lick.contexts) or translate("Gavotte", "no progression that has a name"))
        goal = translate("Gavotte", "leads to {goal}").format(goal=lick.leads_to.words) if lick.leads_to else lick.goal
        self.goal.setText(goal or lick.landing)
        self.link.setText("")
        self.follow.setVisible(False)
        self._lick = lick if is_kept else None
        if not is_kept:
            return
        self.status.setCurrentIndex(self.status.findData(lick.status))
        self.rating.setCurrentIndex(self.rating.findData(lick.rating))
        self.tags.setText(written_tags(lick.tags))
        self._known_tags.setStringList(list(known_tags))
        if self.words.toPlainText() != lick.words:
            self.words.setPlainText(lick.words)

    def show_link(self, words: str, can_follow: bool) -> None:
        """Say how the lick stands to its solo, and whether it can follow it."""
        self.link.setText(words)
        self.follow.setVisible(can_follow)

    def keep(self) -> None:
        """Hand on what was written and not handed on yet."""
        if self._lick is not None:
            self._words_written()

    def _tags_written(self) -> None:
        tags = read_tags(self.tags.text())
        if self._lick is not None and tags != self._lick.tags:
            # What is handed on is not handed on again, whatever is shown in between.
            self._lick = replace(self._lick, tags=tags)
            self.tags_wanted.emit(tags)

    def _words_written(self) -> None:
        words = self.words.toPlainText().strip()
        if self._lick is not None and words != self._lick.words:
            self._lick = replace(self._lick, words=words)
            self.words_wanted.emit(words)

    def eventFilter(self, watched: QObject | None, event: QEvent | None) -> bool:
        if watched is self.words and event is not None and event.type() == QEvent.Type.FocusOut:
            self._words_written()
        return False
