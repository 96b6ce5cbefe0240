"""The open solo: its value and undo, the selection, the view, its recording."""
