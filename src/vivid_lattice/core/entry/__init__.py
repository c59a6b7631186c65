"""Text into circuits and ways: one parser for the typed line, the survey and the tables."""
