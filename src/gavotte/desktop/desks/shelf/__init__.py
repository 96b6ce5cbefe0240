"""The Shelf."""
