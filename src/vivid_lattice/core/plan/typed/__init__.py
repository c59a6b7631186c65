"""Rooms and points as they are typed."""
