"""Make the application's icons from its drawing in the theme: .venv/bin/python packaging/make_icons.py"""

from __future__ import annotations

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

from PyQt6.QtCore import QRectF, QSize, Qt
from PyQt6.QtGui import QGuiApplication, QImage, QPainter
from PyQt6.QtSvg import QSvgGenerator

from gavotte.desktop.theme.icons import paint_application_icon

FOLDER = Path(__file__).parent / "icons"
NAME = "org.gavotte.Gavotte"
SIZES = (48, 64, 128, 256)
DRAWN = 128


def main() -> None:
    """Write one SVG and a PNG of every size."""
    app = QGuiApplication([])
    for size in SIZES:
        image = QImage(size, size, QImage.Format.Format_ARGB32)
        image.fill(Qt.GlobalColor.transparent)
        painter = QPainter(image)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        paint_application_icon(painter, size)
        painter.end()
        (FOLDER / str(size)).mkdir(parents=True, exist_ok=True)
        image.save(str(FOLDER / str(size) / f"{NAME}.png"))
    (FOLDER / "scalable").mkdir(exist_ok=True)
    generator = QSvgGenerator()
    generator.setFileName(str(FOLDER / "scalable" / f"{NAME}.svg"))
    generator.setSize(QSize(DRAWN, DRAWN))
    generator.setViewBox(QRectF(0, 0, DRAWN, DRAWN))
    generator.setTitle("Gavotte")
    painter = QPainter(generator)
    paint_application_icon(painter, DRAWN)
    painter.end()
    app.quit()


if __name__ == "__main__":
    main()
