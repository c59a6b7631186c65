"""One more point on an existing installation: where it may be joined, what it does to the circuit, in which order it is done and tested."""
