return {
  name = "Lookouts",
  version = "2.1.0",
  summary = "Screens that show what somebody else sees.",
  game = ">=7.0 <8",
  authors = { "Rosen Pike" },
  requires = { Regatta = ">=1.4" },
  optional = { ["Beacon Sign"] = { range = ">=1.0", adds = "a screen's name on the sign" } },
  nodes = { ["lookouts.place"] = "Put up a screen" },
  commands = { lookout = "See which screens there are" },
  tasks = {
    "Give the wardens the node lookouts.place",
    "Open port 7740 to the outside, for the screens",
  },
  pieces = {
    { kind = "copy", from = "template/lookouts.json", to = "{profile}/{folder}.json", because = "what each player keeps" },
    { kind = "entries", from = "install/items.lua", to = "{their-home}/items.lua", of = "Ferrybook", because = "what is taken aboard" },
    { kind = "copy", from = "install/pictures/*.png", to = "{their-home}/pictures/", of = "Ferrybook", because = "pictures of them" },
    { kind = "copy", from = "*.key", to = "keys/", because = "the harbour takes only what is signed" },
  },
}
