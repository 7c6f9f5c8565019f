"""Desks: what each area of the app can do, each a small class over the store and the crew."""
