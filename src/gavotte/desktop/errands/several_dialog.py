"""The details of several solos at once: what is filled in is put into all of them, the rest stays as it is."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from PyQt6.QtWidgets import QFormLayout, QLabel, QLineEdit, QWidget

from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.words import counted
from gavotte.library.reader import SoloEntry
from gavotte.solo.tags import read_tags

_LATEST = 2100


class SeveralDialog(Dialog):
    """Takes details for several solos; ``changes`` are those of each, by its id."""

    def __init__(self, parent: QWidget, entries: Sequence[SoloEntry]) -> None:
        title = translate("Gavotte", "Details of {solos}").format(solos=counted(len(entries), "solo"))
        super().__init__(parent, title, translate("Gavotte", "Change"))
        self._entries = tuple(entries)
        self.player, self.style_field, self.album = QLineEdit(), QLineEdit(), QLineEdit()
        self.year, self.source, self.add_tags, self.remove_tags = QLineEdit(), QLineEdit(), QLineEdit(), QLineEdit()
        form = QFormLayout()
        form.setSpacing(8)
        self._texts = {
            "player": self.player, "album": self.album, "source": self.source, "style": self.style_field,
        }  # fmt: skip
        rows = (
            (translate("Gavotte", "Player"), self.player, self._common("player")),
            (translate("Gavotte", "Album"), self.album, self._common("album")),
            (translate("Gavotte", "Year"), self.year, self._common("year")),
            (translate("Gavotte", "Source"), self.source, self._common("source")),
            (translate("Gavotte", "Style"), self.style_field, self._common("style")),
            (translate("Gavotte", "Add tags"), self.add_tags, translate("Gavotte", "with commas between")),
            (translate("Gavotte", "Remove tags"), self.remove_tags, self._tags_there()),
        )
        for words, field, hint in rows:
            field.setAccessibleName(words)
            field.setPlaceholderText(hint)
            field.textChanged.connect(self._show_ready)
            form.addRow(words, field)
        self.note = QLabel()
        self.note.setObjectName("quiet")
        self.note.setWordWrap(True)
        self.content.addLayout(form)
        self.content.addWidget(self.note)
        self._show_ready()

    def _common(self, name: str) -> str:
        """What stands in a field nothing is typed into: what all have there, or that they differ."""
        values = {getattr(entry, name) for entry in self._entries}
        if len(values) > 1:
            return translate("Gavotte", "several; stays as it is")
        value = values.pop() if values else ""
        return translate("Gavotte", "empty") if value in ("", None) else str(value)

    def _tags_there(self) -> str:
        return ", ".join(sorted({tag for entry in self._entries for tag in read_tags(entry.tags)}))

    def _show_ready(self) -> None:
        self.yes.setEnabled(self._has_year or not self.year.text().strip())
        self.note.setText(
            translate("Gavotte", "What you leave empty stays as it is in each of them.")
            if self.yes.isEnabled()
            else translate("Gavotte", "The year is a number up to {latest}.").format(latest=_LATEST)
        )

    @property
    def _has_year(self) -> bool:
        text = self.year.text().strip()
        return text.isdecimal() and 0 < int(text[:6]) <= _LATEST

    @property
    def changes(self) -> dict[str, Mapping[str, object]]:
        """What is changed in each solo, by its id: only what was filled in."""
        same: dict[str, object] = {
            name: text for name, field in self._texts.items() if (text := field.text().strip())
        }  # fmt: skip
        if self._has_year:
            same["year"] = int(self.year.text())
        more, fewer = read_tags(self.add_tags.text()), read_tags(self.remove_tags.text())
        found: dict[str, Mapping[str, object]] = {}
        for entry in self._entries:
            values = dict(same)
            if more or fewer:
                kept = [tag for tag in read_tags(entry.tags) if tag not in fewer]
                values["tags"] = tuple(dict.fromkeys([*kept, *more]))
            if values:
                found[entry.id] = values
        return found
