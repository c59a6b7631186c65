"""Planning residual-current devices: the same circuits in several architectures, set side by side."""
