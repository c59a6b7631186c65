"""What comes in from outside as bytes: tables and bundles. Each file is refused whole, with its reason, or read whole."""
