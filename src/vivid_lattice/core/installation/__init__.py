"""The calculated installation: a job with its standard, every impedance, drop and demand worked out once, and the contexts in which checks ask for them."""
