"""The inspection of an installation: observations with the standard's codes, the outcome of the report, and the sign-off of a job."""
