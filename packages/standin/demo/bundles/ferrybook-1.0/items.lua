-- What may be taken aboard. Other bundles add theirs below.
return {
  rope_coil = { label = "Coil of rope", weight = 3, stack = 8 },
  tin_bell = { label = "Tin bell", weight = 1, stack = 12 },
}
