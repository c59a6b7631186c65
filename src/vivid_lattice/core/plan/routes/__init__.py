"""How cables run between points: the shortest order, the length of every piece, and what each circuit comes to."""
