"""What sets the project up and makes its generated files."""
