"""Small dialogs: which voice of a score is the solo, and what a new lick is called."""

from __future__ import annotations

from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QDialog, QHBoxLayout, QLabel, QLineEdit, QPushButton, QVBoxLayout, QWidget

from gavotte.desktop.choice import Tick
from gavotte.desktop.rows import RowList
from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.words import counted
from gavotte.formats.source import Source, VoiceSummary
from gavotte.vocabulary.lick import Lick


class Dialog(QDialog):
    """A dialog with a heading, room for content, and two buttons."""

    def __init__(self, parent: QWidget, title: str, yes: str) -> None:
        super().__init__(parent)
        self.setWindowTitle(title)
        self.setMinimumWidth(520)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(24, 20, 24, 20)
        layout.setSpacing(12)
        heading = QLabel(title)
        heading.setObjectName("title")
        layout.addWidget(heading)
        self.content = QVBoxLayout()
        self.content.setSpacing(8)
        layout.addLayout(self.content, 1)
        row = QHBoxLayout()
        row.addStretch(1)
        self.no = QPushButton(translate("Gavotte", "Cancel"))
        self.no.setToolTip(translate("Gavotte", "Leave everything as it is (Esc)"))
        self.no.clicked.connect(self.reject)
        self.yes = QPushButton(yes)
        self.yes.setObjectName("primary")
        self.yes.setDefault(True)
        self.yes.setToolTip(translate("Gavotte", "{yes} (Enter)").format(yes=yes))
        self.yes.clicked.connect(self.accept)
        row.addWidget(self.no)
        row.addWidget(self.yes)
        layout.addLayout(row)


class VoiceDialog(Dialog):
    """Asks which line of a score is the solo and whether its repeats are played out; the likeliest is chosen."""

    def __init__(self, parent: QWidget, score: Source, palette: Palette) -> None:
        several = len(score.voices) > 1
        super().__init__(
            parent,
            translate("Gavotte", "Which line is the solo?")
            if several
            else translate("Gavotte", "The score has repeats"),
            translate("Gavotte", "Import this line"),
        )
        self._score = score
        self.voices = RowList(translate("Gavotte", "Lines of the score"))
        self.voices.set_palette(palette)
        self.voices.setMinimumHeight(220 if several else 64)
        if not several:
            self.voices.setMaximumHeight(64)
        for index, voice in enumerate(score.voices):
            self.voices.add_row(
                str(index),
                _name(voice),
                _about(voice),
                translate("Gavotte", "likely the lead") if index == 0 and several else "",
            )
        self.voices.setCurrentRow(0)
        self.voices.itemActivated.connect(lambda _: self.accept())
        self.as_heard = Tick(translate("Gavotte", "Play the repeats out, bar by bar as they are heard"))
        self.as_heard.setToolTip(translate("Gavotte", "Without this every bar comes once, as it is written"))
        self.as_heard.setChecked(True)
        self.as_heard.setVisible(score.has_repeats)
        if several:
            text = QLabel(translate("Gavotte", "The score holds several lines. Gavotte reads one of them as the solo."))
            text.setObjectName("quietBody")
            self.content.addWidget(text)
        self.content.addWidget(self.voices, 1)
        self.content.addWidget(self.as_heard)

    @property
    def chosen(self) -> VoiceSummary:
        """The chosen line."""
        return self._score.voices[int(self.voices.current_id() or 0)]


def _name(voice: VoiceSummary) -> str:
    return f"{voice.part_name}, {voice.voice if voice.voice.startswith('channel') else f'voice {voice.voice}'}"


def _about(voice: VoiceSummary) -> str:
    parts = [counted(voice.notes, "note")]
    if voice.chords:
        parts.append(counted(voice.chords, "chord symbol"))
    if voice.doubled:
        parts.append(translate("Gavotte", "{doubled} struck together with another").format(doubled=voice.doubled))
    return " · ".join(parts)


class LickDialog(Dialog):
    """Shows the name proposed for a lick and lets the user change it."""

    def __init__(self, parent: QWidget, lick: Lick) -> None:
        super().__init__(parent, translate("Gavotte", "Keep as lick"), translate("Gavotte", "Keep lick"))
        self._lick = lick
        self.name = QLineEdit(lick.name)
        self.name.setAccessibleName(translate("Gavotte", "Name of the lick"))
        self.name.selectAll()
        self.name.textChanged.connect(lambda text: self.yes.setEnabled(bool(text.strip())))
        caption = QLabel(translate("Gavotte", "Name, from its harmony and functions"))
        caption.setObjectName("quiet")
        where = QLabel(
            translate("Gavotte", "{count} from {title}, {place}").format(
                count=counted(len(lick.solo.notes), "note"), title=lick.source.title, place=lick.source.place
            )
        )
        where.setObjectName("quietBody")
        where.setAlignment(Qt.AlignmentFlag.AlignLeft)
        self.content.addWidget(caption)
        self.content.addWidget(self.name)
        self.content.addWidget(where)

    @property
    def lick(self) -> Lick:
        """The lick under the name in the field."""
        return self._lick.renamed(self.name.text().strip() or self._lick.name)
