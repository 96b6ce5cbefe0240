"""The queue: slips, doubts, readings and offers one after the other, to be worked through by keyboard."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import QItemSelectionModel, Qt, pyqtSignal
from PyQt6.QtWidgets import QHBoxLayout, QLabel, QListWidgetItem, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.command import with_key
from gavotte.desktop.desk.updates import Follower, Update
from gavotte.desktop.desks.label.item_words import Words, words_of
from gavotte.desktop.desks.label.review import Review
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.rows import WordList
from gavotte.desktop.words import counted
from gavotte.labelling.answers import plain_ones
from gavotte.labelling.questions import Question

_FEW = 20
"""So many rows are taken out one by one; beyond, the list is made anew."""


class QueuePanel(QWidget):
    """Shows the review's items. It asks the review for everything; signal ``went`` says an answer was given."""

    went = pyqtSignal()

    def __init__(self, session: SoloSession, review: Review) -> None:
        super().__init__()
        self._session, self._review = session, review
        self._showing = False
        column = QVBoxLayout(self)
        column.setContentsMargins(16, 12, 16, 12)
        column.setSpacing(8)
        self.count = QLabel()
        self.count.setObjectName("heading")
        self.what = QLabel()
        self.what.setObjectName("accent")
        self.where = QLabel()
        self.where.setObjectName("quiet")
        self.words = QLabel()
        self.words.setWordWrap(True)
        self.words.setMinimumHeight(72)
        self.words.setAlignment(Qt.AlignmentFlag.AlignTop)
        buttons = QHBoxLayout()
        buttons.setSpacing(8)
        self.take = QPushButton()
        self.take.setObjectName("primary")
        self.take.clicked.connect(self._take)
        self.leave = QPushButton()
        self.leave.clicked.connect(self._leave)
        buttons.addWidget(self.take, 1)
        buttons.addWidget(self.leave, 1)
        self.hint = QLabel()
        self.hint.setObjectName("quiet")
        self.hint.setWordWrap(True)
        self.rows = WordList(translate("Gavotte", "The queue"))
        self.rows.itemClicked.connect(self._clicked)
        self.rows.currentRowChanged.connect(self._walked)
        self.rows.itemActivated.connect(self._clicked)
        self.plain = QPushButton()
        self.plain.clicked.connect(self._take_plain)
        for widget in (self.count, self.what, self.where, self.words):
            column.addWidget(widget)
        column.addLayout(buttons)
        column.addWidget(self.hint)
        column.addWidget(rule())
        column.addWidget(self.rows, 1)
        column.addWidget(self.plain)
        # Nobody waits for a long list at another page.
        self._follower = Follower(self, lambda _: self.refresh())
        review.changed.connect(lambda: self._follower.note(Update.EDITED))
        review.current_changed.connect(self._show_current)
        self._listed: list[tuple[Question, Words]] = []
        self.refresh()

    def refresh(self) -> None:
        """List the items anew."""
        self._showing = True
        found = self._session.found
        items = self._review.questions if found is not None else []
        if found is None or not self._take_out(items):
            self._listed = []
            self.rows.clear()
            for item in items:
                assert found is not None
                words = words_of(item, found)
                self._listed.append((item, words))
                self.rows.add_words(words.where, words.short)
        self._showing = False
        number = len(self._listed)
        self.rows.setVisible(number > 0)
        self.count.setText(
            counted(number, "thing to look at") if number else translate("Gavotte", "Nothing is left to look at")
        )
        plain = len(plain_ones(self._session.labels.values()))
        self.plain.setVisible(plain > 0)
        self.plain.setText(translate("Gavotte", "Take all plain labels ({number})").format(number=plain))
        self.plain.setToolTip(
            with_key(translate("Gavotte", "Sure chord tones and passing notes become your decisions"), "Shift+A")
        )
        self._show_current()

    def _take_out(self, items: Sequence[Question]) -> bool:
        """Take out what is not asked any more; False where that is not all that changed."""
        kept = set(map(id, items))
        gone = [index for index, (item, _) in enumerate(self._listed) if id(item) not in kept]
        if not gone or len(gone) > _FEW or len(self._listed) - len(gone) != len(items):
            return False
        for index in reversed(gone):
            self._listed.pop(index)
            self.rows.takeItem(index)
        return all(item is listed for item, (listed, _) in zip(items, self._listed, strict=True))

    def _show_current(self) -> None:
        current = self._review.current
        index = next((k for k, (item, _) in enumerate(self._listed) if item is current), None)
        words = None if index is None else self._listed[index][1]
        for widget in (self.what, self.where, self.words, self.take, self.leave):
            widget.setVisible(words is not None)
        if words is None or index is None:
            self.rows.clearSelection()
            self.hint.setText(
                translate("Gavotte", "Tab goes to the first.")
                if self._listed
                else translate("Gavotte", "Every label is sure enough, and nothing looks like a slip.")
            )
            return
        self._showing = True
        self.rows.setCurrentRow(index, QItemSelectionModel.SelectionFlag.ClearAndSelect)
        self._showing = False
        self.what.setText(words.what)
        self.where.setText(words.where)
        self.where.setVisible(bool(words.where))
        self.words.setText(words.words)
        self.take.setText(words.take)
        self.take.setToolTip(
            with_key(translate("Gavotte", "{what} and go on to the next").format(what=words.take), "A")
        )
        self.leave.setText(words.leave)
        self.leave.setToolTip(
            with_key(translate("Gavotte", "{what} and go on to the next").format(what=words.leave), "X")
        )
        self.hint.setText(
            translate("Gavotte", "A or X answers and goes on. Return lets it sound, Tab goes on without an answer.")
        )

    def _walked(self, row: int) -> None:
        """The list was walked through by keys: the page follows."""
        if not self._showing and 0 <= row < len(self._listed):
            self._review.choose(self._listed[row][0])

    def _clicked(self, row: QListWidgetItem) -> None:
        self._review.choose(self._listed[self.rows.row(row)][0])

    def _take(self) -> None:
        self._review.answer(True)
        self.went.emit()

    def _leave(self) -> None:
        self._review.answer(False)
        self.went.emit()

    def _take_plain(self) -> None:
        self._review.take_plain()
        self.went.emit()
