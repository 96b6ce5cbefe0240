"""The document: a solo as one immutable value, the edits that make a new one, and its checks."""
