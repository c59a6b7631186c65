"""The board itself: what stands in it, where on its rails, how it is joined, wired, named, and what of it is live."""
