"""Playback: audio outputs, the transport that drives them, and its bar under the page."""
