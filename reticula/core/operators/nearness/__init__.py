"""Moving points by what is near, by rays and by values."""
