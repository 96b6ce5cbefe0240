"""The school panel: which school the open solo is labelled by, its choices, and what each would change."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace
from functools import partial

from PyQt6.QtCore import Qt, QTimer, pyqtSignal
from PyQt6.QtWidgets import (
    QGridLayout,
    QHBoxLayout,
    QInputDialog,
    QLabel,
    QPushButton,
    QScrollArea,
    QVBoxLayout,
    QWidget,
)

from gavotte.desktop.activity import Activities
from gavotte.desktop.desks.label.core_words import SCHOOL_WORDS, school_name
from gavotte.desktop.desks.label.item_words import CHOICE_HINTS, CHOICE_WORDS
from gavotte.desktop.solo.session import SoloSession
from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice, Tick
from gavotte.desktop.words import counted
from gavotte.formats.errors import FormatError
from gavotte.labelling.labeller import Labelled
from gavotte.labelling.learning import changed_labels
from gavotte.library.errors import LibraryError
from gavotte.library.schools import keep_schools, own_schools, school_named
from gavotte.solo.school import CHOICES, SCHOOLS, School, StartsFrom
from gavotte.theory.degrees import DegreeNaming

_NAMES = (
    ("compound", QT_TRANSLATE_NOOP("Gavotte", "9 11 13"), QT_TRANSLATE_NOOP("Gavotte", "2 4 6")),
    ("sharp_ninth", QT_TRANSLATE_NOOP("Gavotte", "♯9"), QT_TRANSLATE_NOOP("Gavotte", "♭3, not ♯9")),
    ("flat_thirteenth", QT_TRANSLATE_NOOP("Gavotte", "♭13"), QT_TRANSLATE_NOOP("Gavotte", "♯5")),
    ("sharp_eleventh", QT_TRANSLATE_NOOP("Gavotte", "♯11"), QT_TRANSLATE_NOOP("Gavotte", "♭5")),
    ("diminished_seventh", QT_TRANSLATE_NOOP("Gavotte", "°7"), QT_TRANSLATE_NOOP("Gavotte", "♭♭7")),
)
COUNT_DELAY_MS = 200


class SchoolPanel(QScrollArea):
    """Asks the session for other schools. Signal: ``failed(message)``."""

    failed = pyqtSignal(str)

    def __init__(self, session: SoloSession, activities: Activities) -> None:
        super().__init__()
        self.setWidgetResizable(True)
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self._session, self._activities = session, activities
        self.own: list[School] = []
        self.ticks: dict[str, Tick] = {}
        self.counts: dict[str, QLabel] = {}
        self.namings: dict[str, Choice] = {}
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(COUNT_DELAY_MS)
        self._soon.timeout.connect(self._count)
        body = QWidget()
        self._column = QVBoxLayout(body)
        self._column.setContentsMargins(16, 12, 16, 12)
        self._column.setSpacing(8)
        self._build_choice()
        self._build_choices()
        self._build_naming()
        self._column.addStretch(1)
        self.setWidget(body)
        session.replaced.connect(self.load)

    def load(self) -> None:
        """Read the user's own schools."""
        try:
            self.own = list(own_schools(self._session.library))
        except (FormatError, LibraryError) as error:
            self.failed.emit(str(error))

    def _build_choice(self) -> None:
        self.school = Choice()
        self.school.setAccessibleName(translate("Gavotte", "School"))
        self.school.setToolTip(translate("Gavotte", "The school this solo is labelled by"))
        self.school.activated.connect(self._school_chosen)
        self.about = QLabel()
        self.about.setObjectName("quiet")
        self.about.setWordWrap(True)
        row = QHBoxLayout()
        row.setSpacing(8)
        self.keep = QPushButton(translate("Gavotte", "Keep as my own…"))
        self.keep.setToolTip(translate("Gavotte", "Give these choices a name, for other solos too"))
        self.keep.clicked.connect(self._keep_as)
        self.drop = QPushButton(translate("Gavotte", "Delete"))
        self.drop.setToolTip(translate("Gavotte", "Take this school off the list; solos labelled by it keep it"))
        self.drop.clicked.connect(self._drop)
        row.addWidget(self.keep)
        row.addWidget(self.drop)
        row.addStretch(1)
        self._column.addWidget(self.school)
        self._column.addWidget(self.about)
        self._column.addLayout(row)

    def _build_choices(self) -> None:
        heading = QLabel(translate("Gavotte", "What it holds"))
        heading.setObjectName("heading")
        self._column.addSpacing(8)
        self._column.addWidget(heading)
        for choice in CHOICES:
            words, hint = said(CHOICE_WORDS[choice]), said(CHOICE_HINTS[choice])
            self._row(choice, words, hint, partial(self._choice_made, choice))
        self._row(
            "centre",
            translate("Gavotte", "The key comes before the chord"),
            translate("Gavotte", "Notes are heard in their key's scale first, and then against the chord"),
            self._start_made,
        )

    def _row(self, name: str, words: str, hint: str, then: Callable[[bool], None]) -> None:
        """A choice over two lines: what it says, and what it would change."""
        tick = Tick(words)
        tick.setToolTip(hint)
        tick.clicked.connect(then)
        count = QLabel()
        count.setObjectName("quiet")
        count.setIndent(24)
        self.ticks[name], self.counts[name] = tick, count
        box = QVBoxLayout()
        box.setSpacing(0)
        box.addWidget(tick)
        box.addWidget(count)
        self._column.addLayout(box)

    def _build_naming(self) -> None:
        heading = QLabel(translate("Gavotte", "How degrees are written"))
        heading.setObjectName("heading")
        self._column.addSpacing(8)
        self._column.addWidget(heading)
        grid = QGridLayout()
        grid.setSpacing(8)
        for place, (name, first, second) in enumerate(_NAMES):
            choice = Choice()
            choice.addItem(said(first), True)
            choice.addItem(said(second), False)
            choice.setAccessibleName(
                translate("Gavotte", "{first} or {second}").format(first=said(first), second=said(second))
            )
            choice.activated.connect(partial(self._naming_made, name))
            self.namings[name] = choice
            grid.addWidget(choice, place // 2, place % 2)
        self._column.addLayout(grid)

    # -- showing ------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Show the open solo's school."""
        solo = self._session.solo
        if solo is None:
            return
        school = solo.school
        names = [*SCHOOLS, *self.own]
        if all(known != school for known in names):
            names.append(school)
        self.school.clear()
        for known in names:
            self.school.addItem(school_name(known.name), known)
        self.school.setCurrentIndex(next(k for k, known in enumerate(names) if known == school))
        shipped = school in SCHOOLS
        self.about.setText(said(SCHOOL_WORDS[school.name]) if shipped else translate("Gavotte", "Your own choices."))
        self.drop.setVisible(school in self.own)
        self.keep.setVisible(not shipped and school not in self.own)
        for choice in CHOICES:
            self.ticks[choice].setChecked(bool(getattr(school, choice)))
        self.ticks["centre"].setChecked(school.starts_from is StartsFrom.KEY_CENTRE)
        for name, naming in self.namings.items():
            naming.setCurrentIndex(0 if getattr(school.naming, name) else 1)
        if self.isVisible():
            self._soon.start()

    def showEvent(self, event: object) -> None:
        super().showEvent(event)  # type: ignore[arg-type]
        self._soon.start()

    def _count(self) -> None:
        """What each choice made otherwise would change on the open solo."""
        found = self._session.found
        if found is None or not self.isVisible():
            return
        self._activities.cancel(self)

        def work() -> dict[str, int]:
            return {name: changed_labels(found, school) for name, school in _otherwise(found).items()}

        def take(counts: dict[str, int]) -> None:
            for name, number in counts.items():
                words = translate("Gavotte", "Nothing here would change")
                if number:
                    words = translate("Gavotte", "{labels} would change").format(labels=counted(number, "label"))
                self.counts[name].setText(words)
                self.ticks[name].setAccessibleDescription(words)

        self._activities.beside(self, work, take, lambda error: self.failed.emit(str(error)))

    @property
    def is_complete(self) -> bool:
        """Whether the numbers shown are those of the open solo."""
        return not self._activities.of(self) and not self._soon.isActive()

    # -- asking -------------------------------------------------------------------------------------

    def _school_chosen(self, index: int) -> None:
        self._session.set_school(self.school.itemData(index))

    def _choice_made(self, choice: str, value: bool) -> None:
        solo = self._session.solo
        if solo is not None:
            self._set(solo.school.with_choice(choice, value))

    def _start_made(self, value: bool) -> None:
        solo = self._session.solo
        if solo is not None:
            start = StartsFrom.KEY_CENTRE if value else StartsFrom.CHORD
            self._set(replace(solo.school, starts_from=start))

    def _naming_made(self, name: str, index: int) -> None:
        solo = self._session.solo
        if solo is not None:
            changes = {name: index == 0}
            naming: DegreeNaming = replace(solo.school.naming, **changes)
            self._set(replace(solo.school, naming=naming))

    def _set(self, school: School) -> None:
        """Take the choices: one of the user's own schools changes with them, one that ships becomes the user's."""
        before = self._session.solo.school if self._session.solo is not None else school
        same = next((known for known in (*SCHOOLS, *self.own) if replace(known, name=school.name) == school), None)
        if same is not None:
            school = same
        elif before in self.own:
            self.own[self.own.index(before)] = school
            self._write()
        elif before in SCHOOLS:
            name = translate("Gavotte", "{name}, my way").format(name=school_name(before.name))
            school = replace(school, name=name)
        self._session.set_school(school)

    def _keep_as(self) -> None:
        solo = self._session.solo
        if solo is None:
            return
        title = translate("Gavotte", "Keep the school")
        name, accepted = QInputDialog.getText(
            self, title, translate("Gavotte", "What is it called?"), text=solo.school.name
        )
        name = name.strip()
        if not accepted or not name:
            return
        self.keep_named(name)

    def keep_named(self, name: str) -> None:
        """Keep the open solo's choices as a school of the user's own."""
        solo = self._session.solo
        if solo is None:
            return
        if school_named(name, self.own) is not None:
            self.failed.emit(
                translate("Gavotte", "There is a school “{name}” already; choose another name.").format(name=name)
            )
            return
        school = replace(solo.school, name=name)
        self.own.append(school)
        self._write()
        self._session.set_school(school)
        self.refresh()

    def _drop(self) -> None:
        solo = self._session.solo
        if solo is not None and solo.school in self.own:
            self.own.remove(solo.school)
            self._write()
            self.refresh()

    def _write(self) -> None:
        try:
            keep_schools(self._session.library, self.own)
        except LibraryError as error:
            self.failed.emit(translate("Gavotte", "Your schools can't be saved: {why}").format(why=error))


def _otherwise(found: Labelled) -> dict[str, School]:
    """For each choice the school with that one choice made the other way."""
    school = found.frame.school
    schools = {choice: school.with_choice(choice, not getattr(school, choice)) for choice in CHOICES}
    key_first = school.starts_from is StartsFrom.KEY_CENTRE
    schools["centre"] = replace(school, starts_from=StartsFrom.CHORD if key_first else StartsFrom.KEY_CENTRE)
    return schools
