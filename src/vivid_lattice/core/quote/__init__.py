"""Quotes: what a job costs by the user's price list, hours by labour units, overhead and tax; options side by side; what changed since the
last one."""
