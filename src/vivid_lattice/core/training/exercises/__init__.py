"""Exercises without a board: made from a number, judged by the engine, with the calculation as the answer; those that went wrong come again."""
