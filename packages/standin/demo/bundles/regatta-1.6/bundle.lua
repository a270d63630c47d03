return {
  name = "Regatta",
  version = "1.6.0",
  summary = "Boat races in rounds, with crews and buoys.",
  game = ">=7.0 <8",
  authors = { "Nessa Vane" },
  requires = { Ferrybook = ">=1.0" },
  changes = "Rounds are longer; the wind may turn.",
}
