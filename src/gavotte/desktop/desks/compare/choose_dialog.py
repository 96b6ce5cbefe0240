"""Choosing a set of solos: by several players, styles, decades, tags at once, and single solos."""

from __future__ import annotations

from collections.abc import Sequence

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QLabel, QTreeWidget, QTreeWidgetItem, QWidget

from gavotte.desktop.desks.compare.words import criterion_words, several_words, value_words
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.line import Line
from gavotte.desktop.words import counted
from gavotte.library.reader import SoloEntry
from gavotte.library.solo_sets import CRITERIA, SetKind, SoloSet, members, values_of

_VALUE = Qt.ItemDataRole.UserRole


class ChooseDialog(Dialog):
    """``chosen`` is the set that is ticked together."""

    def __init__(self, parent: QWidget, entries: Sequence[SoloEntry], before: SoloSet) -> None:
        super().__init__(parent, translate("Gavotte", "Which solos?"), translate("Gavotte", "Choose these"))
        self._entries = [entry for entry in entries if entry.is_solo]
        self.setMinimumSize(560, 520)
        self.search = Line()
        self.search.setPlaceholderText(translate("Gavotte", "Type to find a name"))
        self.search.setAccessibleName(translate("Gavotte", "Find"))
        self.tree = QTreeWidget()
        self.tree.setHeaderHidden(True)
        self.tree.setAccessibleName(translate("Gavotte", "What the set is made of"))
        self.told = QLabel()
        self.told.setWordWrap(True)
        self.told.setObjectName("quiet")
        self._fill(before)
        for widget in (self.search, self.tree, self.told):
            self.content.addWidget(widget)
        self.search.textChanged.connect(lambda _: self._filter())
        self.tree.itemChanged.connect(lambda *_: self._tell())
        self._tell()

    def _fill(self, before: SoloSet) -> None:
        ticked = dict(before.chosen)
        if before.kind in (*CRITERIA, SetKind.SOLO):
            ticked[before.kind] = (before.value,)
        titles = {entry.id: entry.title for entry in self._entries}
        groups = [(kind, [(value, value_words(kind, value)) for value in values_of(kind, self._entries)])
                  for kind in CRITERIA]  # fmt: skip
        solos = sorted(titles.items(), key=lambda one: one[1])
        for kind, values in [*groups, (SetKind.SOLO, solos)]:
            if not values:
                continue
            group = QTreeWidgetItem([criterion_words(kind)])
            group.setFlags(Qt.ItemFlag.ItemIsEnabled)
            self.tree.addTopLevelItem(group)
            for value, words in values:
                item = QTreeWidgetItem([words])
                item.setFlags(
                    Qt.ItemFlag.ItemIsEnabled | Qt.ItemFlag.ItemIsSelectable | Qt.ItemFlag.ItemIsUserCheckable
                )
                is_on = value in ticked.get(kind, ())
                item.setCheckState(0, Qt.CheckState.Checked if is_on else Qt.CheckState.Unchecked)
                item.setData(0, _VALUE, (kind, value))
                group.addChild(item)
            any_on = any(value in ticked.get(kind, ()) for value, _ in values)
            group.setExpanded(any_on or kind in (SetKind.PLAYER, SetKind.TAG))

    def _items(self) -> list[QTreeWidgetItem]:
        groups = [self.tree.topLevelItem(row) for row in range(self.tree.topLevelItemCount())]
        found = [group.child(row) for group in groups if group is not None for row in range(group.childCount())]
        return [item for item in found if item is not None]

    def _filter(self) -> None:
        """Show only what holds the words that are typed."""
        wanted = self.search.text().casefold().split()
        for item in self._items():
            item.setHidden(not all(word in item.text(0).casefold() for word in wanted))
            group = item.parent()
            if wanted and group is not None and not item.isHidden():
                group.setExpanded(True)

    @property
    def chosen(self) -> SoloSet:
        """The set of what is ticked."""
        ticked: dict[SetKind, list[str]] = {}
        for item in self._items():
            if item.checkState(0) == Qt.CheckState.Checked:
                kind, value = item.data(0, _VALUE)
                ticked.setdefault(kind, []).append(value)
        return SoloSet.several({kind: tuple(values) for kind, values in ticked.items()})

    def _tell(self) -> None:
        chosen = self.chosen
        ids = set(members(chosen, SoloSet(SetKind.ALL), self._entries))
        notes = sum(entry.notes for entry in self._entries if entry.id in ids)
        words = translate("Gavotte", "{solos}, {notes}: {what}")
        told = words.format(
            solos=counted(len(ids), "solo"), notes=counted(notes, "note"), what=several_words(chosen, self._entries)
        )
        self.told.setText(
            told
            if chosen.chosen
            else translate(
                "Gavotte", "Tick what the solos have in common. Of one kind any counts, of several kinds all."
            )
        )
        self.yes.setEnabled(bool(ids))
