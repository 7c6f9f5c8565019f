"""Films on one another: joints, shadows, order, and what must always hold."""
