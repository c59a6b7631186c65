"""Vivid Lattice: designs consumer units and switchboards, and explains every figure."""
