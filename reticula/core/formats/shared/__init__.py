"""What formats have in common: text and its lines, places, colours, drawings, surveys, reading in another process."""
