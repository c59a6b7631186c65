"""The installation as a tree from the origin to the end of every circuit: what feeds what, loops, faults and drops."""
