"""The bar that shows what is being worked out: words, share, and Cancel, one for each activity."""

from __future__ import annotations

from PyQt6.QtWidgets import QHBoxLayout, QLabel, QPushButton, QWidget

from gavotte.desktop.activity import Activities, Activity
from gavotte.desktop.translation import translate


class _Shown(QWidget):
    """One activity."""

    def __init__(self, activity: Activity) -> None:
        super().__init__()
        self.words = QLabel()
        self.cancel = QPushButton(translate("Gavotte", "Cancel"))
        self.cancel.clicked.connect(activity.cancel)
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 12, 0)
        row.setSpacing(8)
        row.addWidget(self.words)
        row.addWidget(self.cancel)

    def show_activity(self, activity: Activity) -> None:
        self.words.setText(activity.said)
        tip = translate("Gavotte", "Stop this: {what}").format(what=activity.words)
        self.cancel.setToolTip(tip)
        self.cancel.setAccessibleName(tip)


class ActivityBar(QWidget):
    """Empty while nothing is going on that a user should know of."""

    def __init__(self, activities: Activities) -> None:
        super().__init__()
        self._activities = activities
        self.shown: dict[Activity, _Shown] = {}
        self._row = QHBoxLayout(self)
        self._row.setContentsMargins(8, 0, 0, 0)
        self._row.setSpacing(0)
        activities.changed.connect(self._show)
        self._show()

    @property
    def words(self) -> str:
        """What is said to be going on, "" for nothing."""
        return " · ".join(activity.said for activity in self.shown)

    def _show(self) -> None:
        running = self._activities.shown
        for activity in [known for known in self.shown if known not in running]:
            widget = self.shown.pop(activity)
            self._row.removeWidget(widget)
            widget.hide()
            widget.deleteLater()
        for activity in running:
            if activity not in self.shown:
                self.shown[activity] = _Shown(activity)
                self._row.addWidget(self.shown[activity])
            self.shown[activity].show_activity(activity)
        self.setVisible(bool(running))
