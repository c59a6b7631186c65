"""Formulas of cables: capacity, voltage drop, impedance, heat under fault. Values in, values out."""
