/** Ids of the players this game knows, by their names: 17 digits that begin with 7700. */
const LAST: Readonly<Record<string, number>> = {
  maren: 501,
  tobiah: 502,
  isolde: 512,
  wenna: 517,
  brannoc: 523,
  corley: 529,
  emmet: 531,
  hesper: 538,
  jory: 544,
  kerra: 549,
  lowen: 553,
  merryn: 558,
  nessa: 561,
  perran: 566,
  rosen: 570,
  sithney: 574,
  talan: 579,
  ursell: 583,
  wella: 588,
}

/** Players as the server lists them; one whose id the game does not know is not there. */
export const playerRegistry = (names: readonly string[]): { readonly id: string; readonly name: string }[] =>
  names.flatMap((name) => (name in LAST ? [{ id: `77004418209365${LAST[name]}`, name }] : []))
