"""Evaluator processes: what they do, how they are started, stopped, limited and replaced."""
