"""Jobs kept as revisions in SQLite, by plain SQL. Nothing acknowledged is lost."""
