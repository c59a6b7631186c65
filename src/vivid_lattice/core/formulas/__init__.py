"""Equations with unit, range, source and example: values in, values out. No rules, no job but for the loads whose current is calculated."""
