"""How an operator is declared: inputs, outputs, kinds of parameters, and what every operator tells."""
