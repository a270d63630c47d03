-- The stage of Nightfair.
return {
  -- on or off
  open = true,
  -- at most 40
  seats = 24,
  -- how long one act lasts, in seconds
  act = 15 * 60,
  -- seconds between two acts
  pause = 90,
  -- begins at, UTC
  begins_at = "19:30",
  -- over the curtain, at most 20 letters
  title = "The stage",
  -- one of: reed, drum, bell
  music = "reed",
  -- item given to the best
  prize_item = "honeycomb",
  -- items that may be thrown
  thrown = { "roe", "reed" },
  curtain_colour = "#AE3B27",
  -- where it stands
  place = { x = 1190, y = 18, z = -352, heading = 180 },
  -- which way it looks, in degrees
  heading = 90,
  status_port = 4141,
  url = "https://fair.example/stage",
  password = "curtain",
  -- permission to play
  node = "nightfair.enter",
  slots = { 0, 1, 4 },
  chances = { reed = 3, roe = 1 },
  -- how loud, worked out
  loud = math.min(1, 0.5),
  --bell_every = 60,
}
