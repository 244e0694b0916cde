"""What ships with the product: demos, examples of operators, and the documentation."""
