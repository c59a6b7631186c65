"""Tests of observations, the outcome of a report and the sign-off."""
