"""Training: boards with hidden defects that answer like real ones, what is stopped, the score, and exercises without a board."""
