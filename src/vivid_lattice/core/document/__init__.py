"""The job file as models: the job, its supply, boards, circuits, rooms, the board that exists, and what changed between two of them."""
