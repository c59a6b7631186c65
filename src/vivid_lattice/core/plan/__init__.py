"""The plan of a house: rooms and points, the routes of its cables, the conductors of every section, the joints of every box."""
