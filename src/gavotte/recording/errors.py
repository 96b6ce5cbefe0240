"""What goes wrong with recordings, in words for the user."""

from __future__ import annotations


class RecordingError(Exception):
    """A recording can't be used. The message says what is wrong and what to do."""
