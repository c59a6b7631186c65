"""The board itself: what is in it, where on its rails, how it is joined, wired, named, and what of it is live."""
