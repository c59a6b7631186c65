"""What in a board is live, how it is isolated, and which circuits lose supply."""
