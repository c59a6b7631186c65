"""The material of a job: what to buy and to cut."""
