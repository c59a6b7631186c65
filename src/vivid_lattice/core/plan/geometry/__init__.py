"""Rooms with their walls, and where points are in them."""
