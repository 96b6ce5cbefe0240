"""What the Write desk is made of: the writer, its panels, keyboard and fretboard."""
