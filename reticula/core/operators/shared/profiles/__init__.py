"""Response curves and gradients as parameters."""
