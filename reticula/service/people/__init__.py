"""Who comes in, and what they may do."""
