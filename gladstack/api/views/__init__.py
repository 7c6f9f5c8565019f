"""Views: how what the app knows is sent."""
