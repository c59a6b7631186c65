"""What fits into conduits and boxes, with the calculation."""
