"""From films to the shop: sheets, and the files to take to the cutter."""
