"""How a board is wired: nets, busbars, links, conductor sizes, routes, and the wiring list."""
