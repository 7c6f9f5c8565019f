"""Imported once by the process that workers are forked from: they begin with all modules and compiled loops loaded."""

from __future__ import annotations

import cv2

from gladstack.core.base.compiled import load
from gladstack.warm import warm

# Threads would not outlive the fork: each worker starts its own.
cv2.setNumThreads(1)
if not load():
    warm()
