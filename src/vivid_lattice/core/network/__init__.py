"""The installation as a tree from the origin to every far end: what feeds what, loops, faults and drops."""
