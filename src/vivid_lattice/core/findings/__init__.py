"""What the engine answers with. Nothing outside the core computes: the interface and the documents print what is here."""
