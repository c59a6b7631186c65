"""Protective devices: what opens, at what current, in what time."""
