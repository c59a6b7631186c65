"""Selectivity between the protective devices of a job: the matrix of pairs, and their curves for a plot."""
