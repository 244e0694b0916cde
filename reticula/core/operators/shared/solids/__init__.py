"""What several operators on solids and sheets use."""
