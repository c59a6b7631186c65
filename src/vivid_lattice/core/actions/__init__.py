"""Actions on a job: a circuit added, a device swapped or moved, a new job. A job in, a job out."""
