"""What page, service and evaluators say to each other about results and changes; the page's types are made from it."""
