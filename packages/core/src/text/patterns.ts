/** A text as a part of a regular expression that finds exactly it. */
export const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')
