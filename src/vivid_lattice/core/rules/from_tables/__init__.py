"""The RuleSet protocol answered from tables alone: one part a kind of question, all figures from packaged data."""
