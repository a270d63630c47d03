-- Regatta. Durations are seconds.
return {
  round = {
    -- how long a round lasts
    seconds = 180,
    -- whole laps only
    laps = 3,
  },
  -- what marks the course; any item of the game
  buoy = "glass_float",
  -- where the course begins, in degrees
  heading = 90,
  wind = { on = true, strength = 0.4 },
  crews = {
    reed = { name = "The Reeds", start = { 120.5, 4, -88 } },
    clay = { name = "The Clays", start = { 124.5, 4, -88 } },
  },
}
