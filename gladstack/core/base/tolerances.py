"""Every tolerance of the core, each with its reason. Lengths in millimetres, those in `_PX` in picture pixels."""

FLATTEN_MM = 0.008
"""Largest deviation when a curve becomes a polyline: well below the 0.025 mm that a cutter resolves."""

CURVE_FIT_MM = 0.01
"""How closely curves are fitted to new edges such as offsets: with the flattening, gaps stay true to 0.02 mm."""

ARC_FIT_PX = 0.34
"""A curve is never fitted closer to a picture's edge than this: below it lies only the noise of the pixels."""

SMOOTHING_PX = 0.5
"""The lightest smoothing of a traced edge; it removes the ripple of the pixel grid and nothing else."""

RESOLVED_MM = 0.025
"""The finest step of the cutters that are met: a piece or hole smaller than this each way is never cut."""

AREA_MM2 = 1e-6
"""Pieces below this area are rounding left by an overlay, not film."""

OVERLAY_MM = 1e-8
"""How far an overlay's outline may be off all along it, when its areas are checked: a hundred times the rounding."""

CRACK_MM = 1e-7
"""Rounding may part two shapes that share an edge by so much, and no more."""

TOUCH_MM = 1e-4
"""Two shapes that share an edge longer than this meet; shorter is a corner touching a corner."""

WRONG_AREA_RATIO = 1e-6
"""How much of the design may differ between the painted cut shapes and the wanted picture."""
