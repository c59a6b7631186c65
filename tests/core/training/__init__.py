"""Training: boards, the bench, exercises."""
