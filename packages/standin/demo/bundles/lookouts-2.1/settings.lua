-- Lookouts. Copy a block to put up another screen.
return {
  -- how often a picture is taken, in seconds
  every = 5,
  -- address of the glass that shows them
  glass = "https://glass.example/7740",
  screens = {
    -- quality is one of: low, fair, high
    mole = { title = "The mole", quality = "fair", size = { 4, 3 } },
    row = { title = "The Lantern Row", quality = "high", size = { 6, 4 } },
  },
}
