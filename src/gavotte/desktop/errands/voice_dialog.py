"""Which line of a score is the solo, and whether its repeats are played out."""

from __future__ import annotations

from PyQt6.QtWidgets import QLabel, QWidget

from gavotte.desktop.theme.palette import Palette
from gavotte.desktop.translation import translate
from gavotte.desktop.widgets.choice import Tick
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.desktop.widgets.rows import RowList
from gavotte.desktop.words import counted
from gavotte.formats.source import Source, VoiceSummary


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
