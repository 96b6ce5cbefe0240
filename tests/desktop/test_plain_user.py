"""The window of a user who may not write everywhere, in a process of its own: tests may run as root."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

pytestmark = pytest.mark.slow

CHILD = """
import sys
from pathlib import Path
from PyQt6.QtCore import QSettings
from gavotte.desktop.app import make_application
from gavotte.desktop.errands.exporting import SCORE
from gavotte.desktop.shell.window import MainWindow
from gavotte.library.errors import LibraryError
from gavotte.library.store import Library

app = make_application()
try:
    library = Library(Path(sys.argv[1]))
except LibraryError as error:
    print(error)
    sys.exit()
window = MainWindow(library, QSettings(sys.argv[2], QSettings.Format.IniFormat))
window.show()
window.greet()
print("at the start:", window.notice.text.text())
window.open_solo(library.solos()[0].id)
window.studio.exporter.failed.connect(lambda words: print("export:", words))
window.studio.exporter.exported.connect(lambda path: print("export:", path.name))
window.studio.exporter.export(window.sheet(), Path(sys.argv[3]) / "a.musicxml", SCORE)
while window.activities.shown:
    app.processEvents()
window.close()
print("closed:", not window.isVisible())
"""
_ROOT_ONLY = "-dac_override,-dac_read_search,-fowner"


def as_plain_user() -> list[str]:
    """What a command begins with so that it may do no more than any user."""
    if os.geteuid():
        return []
    setpriv = shutil.which("setpriv")
    if setpriv is None:
        pytest.skip("As root every folder can be written to, and setpriv is not here to give that up.")
    return [setpriv, f"--bounding-set={_ROOT_ONLY}", f"--inh-caps={_ROOT_ONLY}"]


def what_it_says(library: Path, settings: Path, target: Path, **changed: str | None) -> str:
    """What the window says from its start to its end. ``changed`` are variables of the environment, None for none."""
    environment = {**os.environ, "QT_QPA_PLATFORM": "offscreen", "GAVOTTE_AUDIO": "manual", **changed}
    command = [*as_plain_user(), sys.executable, "-c", CHILD, str(library), str(settings), str(target)]
    known = {name: value for name, value in environment.items() if value is not None}
    done = subprocess.run(command, env=known, capture_output=True, text=True, timeout=60, check=False)
    assert done.returncode == 0, done.stderr
    return done.stdout


@pytest.fixture
def forbidden(tmp_path: Path) -> Path:
    """A folder nobody may write to."""
    folder = tmp_path / "forbidden"
    folder.mkdir(mode=0o555)
    return folder


def test_settings_and_targets_that_may_not_be_written_are_told(demo_folder: Path, forbidden: Path) -> None:
    said = what_it_says(demo_folder, forbidden / "settings.ini", forbidden)
    assert "at the start: The settings can't be written to" in said
    assert "export: a.musicxml could not be written: Permission denied. Choose another folder." in said
    assert "closed: True" in said


def test_a_library_that_may_not_be_written_is_left_alone(demo_folder: Path, tmp_path: Path) -> None:
    for file in demo_folder.glob("*.db"):
        file.chmod(0o444)
    demo_folder.chmod(0o555)
    said = what_it_says(demo_folder, tmp_path / "settings.ini", tmp_path)
    demo_folder.chmod(0o755)
    assert "Nothing was changed. Make sure that the folder can be written to" in said


@pytest.mark.parametrize("home", [None, ""])
def test_nobody_needs_a_home(demo_folder: Path, tmp_path: Path, home: str | None) -> None:
    said = what_it_says(demo_folder, tmp_path / "settings.ini", tmp_path, HOME=home)
    assert "export: a.musicxml" in said
    assert "closed: True" in said
