/** What those have who are named elsewhere in the demo. */
const NAMED: Readonly<Record<string, number>> = {
  maren: 2140,
  tobiah: 1630,
  isolde: 880,
  wenna: 3520,
  brannoc: 410,
  corley: 1275,
  emmet: 960,
  hesper: 335,
  jory: 300,
  kerra: 705,
}
/** How many more came by and were given an account. */
const OTHERS = 118

/** The accounts of everybody who was ever here, as Purse keeps them: most have little, and few a lot; the same in every build. */
export function accountsText(): string {
  const others = Array.from(
    { length: OTHERS },
    (_x, i) => `  "${77004418209366000n + BigInt(i)}": ${300 + Math.round(4200 * (((i * 37) % OTHERS) / OTHERS) ** 3)}`,
  )
  const named = Object.entries(NAMED).map(([name, balance]) => `  ${name}: ${balance}`)
  return ['# Written by Purse.', 'accounts:', ...named, ...others, ''].join('\n')
}
