return {
  name = "Beacon Sign",
  version = "1.2.0",
  summary = "A big sign across the estuary.",
  game = ">=7.0 <8",
  authors = { "Wenna Stokes" },
}
