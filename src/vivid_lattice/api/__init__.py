"""HTTP: thin routers that turn requests into calls and errors into problem+json."""
