interface Told {
  readonly pointer: string
  readonly surface: string
  readonly moment: string
  readonly when: string
}

export function scoreMessages(
  files: readonly (readonly [string, Readonly<Record<string, string>>])[],
  messagesOf: (path: string) => readonly Told[],
  pointersOf: (path: string) => readonly string[],
): {
  readonly counts: Readonly<Record<'right' | 'told' | 'wanted' | 'surface' | 'moment', number>>
  readonly wrong: readonly string[]
}
