"""What several operators use."""
