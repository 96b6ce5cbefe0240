"""The window around the desks: rail, menus, map of keys, palette of commands, notices, preferences."""
