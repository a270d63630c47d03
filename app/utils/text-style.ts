import type { TextRun } from '@pasticcio/core'

/** How a run of letters looks, as CSS. */
export const styleOf = ({ colour, bold, italic, underline, struck }: TextRun): Record<string, string | undefined> => ({
  color: colour,
  fontWeight: bold ? '700' : undefined,
  fontStyle: italic ? 'italic' : undefined,
  textDecoration: [underline && 'underline', struck && 'line-through'].filter(Boolean).join(' ') || undefined,
})
