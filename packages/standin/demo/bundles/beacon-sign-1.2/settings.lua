return {
  -- ten letters a line at most
  lines = { first = "LANTERN", second = "ROW" },
  -- one of: oak, tin, glass
  model = "oak",
  place = { x = 1204.5, y = 18, z = -377, heading = 135 },
}
