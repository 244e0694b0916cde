"""Where shapes stand."""
