"""Which layer of the line is looked at: all notes, fewer and fewer of them, or its guide tones."""

from __future__ import annotations

from gavotte.desktop.translation import QT_TRANSLATE_NOOP, said, translate
from gavotte.desktop.widgets.choice import Choice
from gavotte.phrasing.skeleton import Level

GUIDE_TONES = "guide tones"
_WORDS = {
    Level.ALL: QT_TRANSLATE_NOOP("Gavotte", "All notes"),
    Level.PLAIN: QT_TRANSLATE_NOOP("Gavotte", "Without ornaments"),
    Level.BEATS: QT_TRANSLATE_NOOP("Gavotte", "One a beat"),
    Level.STRONG: QT_TRANSLATE_NOOP("Gavotte", "On strong beats"),
    Level.BARS: QT_TRANSLATE_NOOP("Gavotte", "One a bar"),
}


def layer_words(level: Level) -> str:
    """What a layer is called."""
    return said(_WORDS[level])


class LayerChoice(Choice):
    """Offers the layers, and the guide tones behind them."""

    def __init__(self) -> None:
        super().__init__()
        self.setAccessibleName(translate("Gavotte", "Which layer of the line is shown"))
        self.setToolTip(translate("Gavotte", "V peels a layer off, Shift+V lays it back, T shows the guide tones"))
        for level in Level:
            self.addItem(layer_words(level), int(level))
        self.insertSeparator(self.count())
        self.addItem(translate("Gavotte", "Guide tones"), GUIDE_TONES)
        self.setFixedWidth(180)

    @property
    def wanted(self) -> object:
        """What is chosen: a level as a number, or the guide tones."""
        return self.currentData()

    @property
    def level(self) -> Level:
        """The level that is shown; all notes where the guide tones are."""
        return Level(self.wanted) if isinstance(self.wanted, int) else Level.ALL

    def step(self, by: int) -> None:
        """Peel another layer off (1), or lay one back (-1); from the guide tones back to all notes."""
        if self.wanted == GUIDE_TONES:
            self.choose(Level.ALL)
        else:
            self.choose(Level(min(max(self.level + by, Level.ALL), Level.BARS)))

    def toggle_guide_tones(self) -> None:
        """Show the guide tones alone, or all notes."""
        is_shown = self.wanted == GUIDE_TONES
        self.setCurrentIndex(0 if is_shown else self.findData(GUIDE_TONES))

    def choose(self, level: Level) -> None:
        """Show a level."""
        self.setCurrentIndex(self.findData(int(level)))
