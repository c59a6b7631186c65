"""How devices of a job stand to each other: in series on a way, and which circuits share a residual-current device."""
