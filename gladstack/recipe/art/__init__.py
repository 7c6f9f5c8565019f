"""What the art of a design comes to: regions, claims, mends, pieces."""
