"""Choosing: fills what is left as ``auto``, and says which check decided."""
