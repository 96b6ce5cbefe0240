"""Colours, type, shapes and icons: the only place where a colour is written."""
