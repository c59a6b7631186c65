"""Tests of the finished installation: what each reading is expected to be."""
