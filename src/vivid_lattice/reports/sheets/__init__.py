"""The papers, one a file: each makes the story of its pages from a data."""
