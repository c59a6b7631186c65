"""The command line: the same calls as the API, one file a family of commands."""
