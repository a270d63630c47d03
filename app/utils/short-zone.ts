/** A time zone as it is said: `America/New_York` is “New York”. */
export const shortZone = (zone: string): string => zone.split('/').at(-1)!.replaceAll('_', ' ')
