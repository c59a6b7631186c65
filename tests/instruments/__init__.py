"""Tests of the line protocol and the simulated tester."""
