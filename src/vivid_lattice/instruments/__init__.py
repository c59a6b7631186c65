"""Test instruments: what an adapter of one has to do, the line protocol, and a simulated multifunction tester that speaks it."""
