"""Preferences: look and sound. Each takes effect at once and is kept in the settings."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QSettings, pyqtSignal
from PyQt6.QtWidgets import QFileDialog, QFormLayout, QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.playback.outputs import device_names
from gavotte.desktop.playback.sound_out import DEVICE
from gavotte.desktop.theme.look import FOLLOW_SYSTEM, LOOKS
from gavotte.desktop.translation import said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.desktop.widgets.dialog import Dialog
from gavotte.solo.instruments import INSTRUMENTS


class PreferencesDialog(Dialog):
    """What holds for all solos: the look, the sound, the devices.

    Signals: ``look_chosen(name)``, ``reader_chosen(instrument)`` ("" reads each solo for its own),
    ``soundfont_chosen(path)`` ("" is the usual one), ``device_chosen(name)``.
    """

    look_chosen = pyqtSignal(str)
    reader_chosen = pyqtSignal(str)
    soundfont_chosen = pyqtSignal(str)
    device_chosen = pyqtSignal(str)

    def __init__(self, parent: QWidget, settings: QSettings, sound_words: str) -> None:
        super().__init__(parent, translate("Gavotte", "Preferences"), translate("Gavotte", "Done"))
        self._settings = settings
        self.no.hide()
        self.look = Choice()
        for words, name in LOOKS:
            self.look.addItem(said(words), name)
        self.look.setCurrentIndex(max(0, self.look.findData(str(settings.value("look", FOLLOW_SYSTEM)))))
        self.look.setAccessibleName(translate("Gavotte", "Look"))
        self.look.activated.connect(lambda _: self.look_chosen.emit(self.look.currentData()))
        self.reader = Choice()
        self.reader.setAccessibleName(translate("Gavotte", "You read for"))
        self.reader.setToolTip(
            translate("Gavotte", "Written pitch shows every solo and lick for it, whatever it was played on")
        )
        self.reader.addItem(translate("Gavotte", "The instrument of each solo"), "")
        for instrument in INSTRUMENTS[1:]:
            self.reader.addItem(instrument.name, instrument.name)
        self.reader.setCurrentIndex(max(0, self.reader.findData(str(settings.value("reader", "")))))
        self.reader.activated.connect(lambda _: self.reader_chosen.emit(self.reader.currentData()))
        self.device = Choice()
        self.device.setAccessibleName(translate("Gavotte", "Output"))
        self.device.setToolTip(translate("Gavotte", "Where the sound goes"))
        names = device_names()
        self.device.addItem(
            translate("Gavotte", "The usual one") if names else translate("Gavotte", "No sound card"), ""
        )
        for name in names:
            self.device.addItem(name, name)
        self.device.setCurrentIndex(max(0, self.device.findData(str(settings.value(DEVICE, "")))))
        self.device.setEnabled(bool(names))
        self.device.activated.connect(lambda _: self.device_chosen.emit(self.device.currentData()))
        self.soundfont = QPushButton()
        self.soundfont.setToolTip(translate("Gavotte", "Choose the SoundFont everything is played with"))
        self.soundfont.clicked.connect(self._choose_soundfont)
        self.usual = QPushButton(translate("Gavotte", "Usual"))
        self.usual.setToolTip(translate("Gavotte", "Go back to the SoundFont Gavotte comes with"))
        self.usual.clicked.connect(lambda: self.use_soundfont(""))
        self.words = QLabel(sound_words)
        self.words.setObjectName("quiet")
        self.words.setWordWrap(True)
        self.words.setVisible(bool(sound_words))
        row = QHBoxLayout()
        row.setSpacing(8)
        row.addWidget(self.soundfont, 1)
        row.addWidget(self.usual)
        form = QFormLayout()
        form.setSpacing(8)
        form.addRow(translate("Gavotte", "Look"), self.look)
        form.addRow(translate("Gavotte", "You read for"), self.reader)
        form.addRow(translate("Gavotte", "Output"), self.device)
        ears = QLabel(translate("Gavotte", "With headphones: low enough to hear someone speak beside you."))
        ears.setObjectName("quiet")
        ears.setWordWrap(True)
        form.addRow("", ears)
        form.addRow(translate("Gavotte", "SoundFont"), row)
        form.addRow("", self.words)
        self.content.addLayout(form)
        self._show_soundfont()

    def _show_soundfont(self) -> None:
        chosen = str(self._settings.value("playback/soundfont", ""))
        self.soundfont.setText(Path(chosen).name if chosen else translate("Gavotte", "The usual one"))
        self.soundfont.setAccessibleName(translate("Gavotte", "SoundFont: {text}").format(text=self.soundfont.text()))
        self.usual.setEnabled(bool(chosen))

    def _choose_soundfont(self) -> None:
        name, _ = QFileDialog.getOpenFileName(
            self,
            translate("Gavotte", "SoundFont"),
            "/usr/share/sounds",
            translate("Gavotte", "SoundFonts (*.sf2 *.sf3)"),
        )
        if name:
            self.use_soundfont(name)

    def use_soundfont(self, path: str) -> None:
        """Play with another SoundFont from now on."""
        self.soundfont_chosen.emit(path)
        self._show_soundfont()
