"""Protective devices: what trips, at what current, in what time."""
