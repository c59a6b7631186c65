"""What several checks share: how a result is put, what a requirement comes to, sizes and loads."""
