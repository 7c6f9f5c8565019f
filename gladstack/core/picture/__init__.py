"""From pixels to planar maps: flat pictures and line art."""
