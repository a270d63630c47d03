return {
  name = "Outwash",
  version = "3.1.0",
  summary = "Clears wild creatures on a schedule.",
  game = ">=7.0 <8",
  authors = { "Perran Sully" },
  pieces = {
    { kind = "block", from = "install/tides.ini", to = "{profile}/tides.ini", because = "the hours all bundles go by" },
  },
}
