"""The survey: a board as it was found, what is wrong in it, how it does by the same checks, and what becomes of its ways."""
