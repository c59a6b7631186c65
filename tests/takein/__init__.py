"""Files that come in."""
