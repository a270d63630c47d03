return {
  lookout_glass = { label = "Looking glass", weight = 1, stack = 1 },
  lookout_mast = { label = "Lookout mast", weight = 8, stack = 4 },
}
