"""Routes: a router for each area, thin; what they need comes from the desks."""
