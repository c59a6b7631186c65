"""Tests of reaching the server over the local network."""
