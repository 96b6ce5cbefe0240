"""The workshop: what can be made of a lick. Now: moving it through all keys."""
