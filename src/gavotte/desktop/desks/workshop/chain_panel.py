"""The chain of steps: what is done one after the other, and the controls of the step that is looked at."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import pyqtSignal
from PyQt6.QtWidgets import QApplication, QHBoxLayout, QLabel, QMenu, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.desks.workshop.options_form import OptionsForm
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.header import rule
from gavotte.desktop.widgets.rows import ROW_HEIGHT, RowList
from gavotte.workshop.operation import Recipe, Stage, Step
from gavotte.workshop.operations import ALL, OPERATIONS

_MOST_SEEN = 4


class ChainPanel(QWidget):
    """Lists steps. ``recipes`` are those that can be used.

    Signals: ``chosen(place)``; ``wanted(operation)``, add a step; ``recipe_wanted(recipe)``; ``keep_wanted``, keep the
    chain as a recipe; ``forget_wanted(recipe)``.
    """

    chosen = pyqtSignal(int)
    wanted = pyqtSignal(str)
    recipe_wanted = pyqtSignal(object)
    keep_wanted = pyqtSignal()
    forget_wanted = pyqtSignal(object)

    def __init__(self) -> None:
        super().__init__()
        self._recipes: tuple[Recipe, ...] = ()
        self.steps = RowList(translate("Gavotte", "Steps"))
        self.none = QLabel(
            translate("Gavotte", "No step yet: the result is the source. Add a step to make something of it.")
        )
        self.none.setWordWrap(True)
        self.none.setObjectName("quietBody")
        self.add = QPushButton(translate("Gavotte", "Add a step"))
        self.add.setObjectName("primary")
        self.on = QPushButton(translate("Gavotte", "Off"))
        self.earlier = QPushButton(translate("Gavotte", "Up"))
        self.later = QPushButton(translate("Gavotte", "Down"))
        self.remove = QPushButton(translate("Gavotte", "Remove"))
        self.recipe = QPushButton(translate("Gavotte", "Recipes"))
        self.recipe.setToolTip(translate("Gavotte", "Keep these steps as a recipe, or use one that was kept"))
        self.adding, self.recipes = QMenu(self), QMenu(self)
        self.add.setMenu(self.adding)
        self.recipe.setMenu(self.recipes)
        self.recipes.aboutToShow.connect(self._fill_recipes)
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setContentsMargins(12, 8, 12, 0)
        self.form = OptionsForm()
        self._fill_adding()
        self._lay_out()
        self.steps.currentRowChanged.connect(self._choose)

    def _lay_out(self) -> None:
        above = QHBoxLayout()
        above.setContentsMargins(12, 10, 12, 6)
        above.setSpacing(8)
        above.addWidget(self.add)
        above.addStretch(1)
        above.addWidget(self.recipe)
        below = QHBoxLayout()
        below.setContentsMargins(12, 6, 12, 8)
        below.setSpacing(4)
        for button in (self.on, self.earlier, self.later, self.remove):
            below.addWidget(button)
        below.addStretch(1)
        empty = QVBoxLayout()
        empty.setContentsMargins(12, 4, 12, 8)
        empty.addWidget(self.none)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(0)
        column.addLayout(above)
        column.addWidget(self.steps)
        column.addLayout(empty)
        column.addLayout(below)
        column.addWidget(rule())
        column.addWidget(self.told)
        column.addWidget(self.form, 1)

    def set_palette(self, palette: Palette) -> None:
        """Show in a theme's colours."""
        self.steps.set_palette(palette)

    def show_recipes(self, recipes: Sequence[Recipe]) -> None:
        """What recipes there are."""
        self._recipes = tuple(recipes)

    def show_steps(self, steps: Sequence[Step], chosen: int, stages: Sequence[Stage], lines: Sequence[str]) -> None:
        """Show the chain; ``stages`` is what each of its steps has made, as far as that is known."""
        self.steps.blockSignals(True)
        self.steps.clear()
        for place, step in enumerate(steps):
            known = OPERATIONS.get(step.operation)
            words = said(known.words) if known is not None else step.operation
            summary = known.summary(dict(step.values)) if known is not None else ""
            stage = stages[place] if place < len(stages) else None
            problem = stage.problem if stage is not None else ""
            edge = "" if step.is_on else translate("Gavotte", "off")
            if stage is not None and problem:
                edge = translate("Gavotte", "not done") if stage.failed else translate("Gavotte", "in part")
            self.steps.add_row(str(place), f"{place + 1}  {words}", problem or summary, edge, bool(problem))
        self.steps.setCurrentRow(chosen)
        self.steps.blockSignals(False)
        self.steps.setVisible(bool(steps))
        self.none.setVisible(not steps)
        self.steps.setFixedHeight(ROW_HEIGHT * min(_MOST_SEEN, max(1, len(steps))) + 2)
        current = steps[chosen] if 0 <= chosen < len(steps) else None
        for button in (self.on, self.earlier, self.later, self.remove):
            button.setVisible(bool(steps))
        self.on.setText(translate("Gavotte", "Off") if current is None or current.is_on else translate("Gavotte", "On"))
        self.earlier.setEnabled(current is not None and chosen > 0)
        self.later.setEnabled(current is not None and chosen + 1 < len(steps))
        problem = stages[chosen].problem if 0 <= chosen < len(stages) else ""
        self.told.setText(problem)
        self.told.setVisible(bool(problem))
        operation = OPERATIONS.get(current.operation) if current is not None else None
        had_keys = self.has_keys()
        self.form.show_step(operation, current, lines)
        self.form.setVisible(current is not None)
        if had_keys and not self.has_keys():
            # What had them went with the step it belonged to.
            (self.steps if steps else self.add).setFocus()

    def has_keys(self) -> bool:
        """Whether the keys go to something in this panel."""
        focus = QApplication.focusWidget()
        return focus is not None and self.isAncestorOf(focus) and focus.isVisible()

    def _choose(self, row: int) -> None:
        if row >= 0:
            self.chosen.emit(row)

    def _fill_adding(self) -> None:
        families: dict[str, QMenu] = {}
        for operation in ALL:
            if operation.family not in families:
                menu = self.adding.addMenu(said(operation.family))
                assert menu is not None
                families[operation.family] = menu
            action = families[operation.family].addAction(said(operation.words))
            assert action is not None
            action.setToolTip(said(operation.hint))
            action.triggered.connect(lambda _, name=operation.name: self.wanted.emit(name))

    def _fill_recipes(self) -> None:
        self.recipes.clear()
        keep = self.recipes.addAction(translate("Gavotte", "Keep these steps as a recipe…"))
        assert keep is not None
        keep.setEnabled(self.steps.count() > 0)
        keep.triggered.connect(lambda _: self.keep_wanted.emit())
        if not self._recipes:
            return
        self.recipes.addSeparator()
        for recipe in self._recipes:
            action = self.recipes.addAction(translate("Gavotte", "Use “{name}”").format(name=recipe.name))
            assert action is not None
            action.triggered.connect(lambda _, r=recipe: self.recipe_wanted.emit(r))
        forget = self.recipes.addMenu(translate("Gavotte", "Delete a recipe"))
        assert forget is not None
        for recipe in self._recipes:
            action = forget.addAction(recipe.name)
            assert action is not None
            action.triggered.connect(lambda _, r=recipe: self.forget_wanted.emit(r))
