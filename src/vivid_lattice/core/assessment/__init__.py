"""Every check on a job: the findings, and the causes they share."""
