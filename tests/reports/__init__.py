"""Papers: what they print is what the core has found."""
