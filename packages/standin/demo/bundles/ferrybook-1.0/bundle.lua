return {
  name = "Ferrybook",
  version = "1.0.0",
  summary = "Who is aboard, and where they go; others look it up.",
  game = ">=7.0 <8",
  authors = { "Lowen Cade" },
}
