"""Points at random, and evening them out."""
