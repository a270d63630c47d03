/** Relative luminance of a colour of six digits (WCAG 2.2). */
function luminance(colour: string): number {
  const [r, g, b] = [1, 3, 5].map((at) => {
    const part = Number.parseInt(colour.slice(at, at + 2), 16) / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  })
  return 0.2126 * r! + 0.7152 * g! + 0.0722 * b!
}

/** How much two colours differ, 1 to 21; text needs 4.5 (WCAG 2.2). */
export function contrastOf(a: string, b: string): number {
  const [light, dark] = [luminance(a), luminance(b)].sort((x, y) => y - x)
  return (light! + 0.05) / (dark! + 0.05)
}

/** What texts stand on in the game, and how they look there unless a code says otherwise. */
export const GROUNDS = {
  dark: { ground: '#2b201a', text: '#f0e6d6' },
  light: { ground: '#efe0c4', text: '#35271f' },
} as const
export type Ground = keyof typeof GROUNDS
