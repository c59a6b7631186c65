"""Long sweeps: ``make test-slow``. Each has a sample in the ordinary tests."""
