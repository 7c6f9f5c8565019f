"""Imported once by the process that workers are forked from: they begin with all modules loaded and all loops compiled."""

from __future__ import annotations

import cv2

from gladstack.warm import warm

# Threads would not outlive the fork: each worker starts its own.
cv2.setNumThreads(1)
warm()
