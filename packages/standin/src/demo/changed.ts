export interface TextChange {
  readonly from: string
  readonly to: string
}

/** A text with changes made to it. @throws Error for one whose place is not there, or not the only one */
export function changed(path: string, text: string, changes: readonly TextChange[]): string {
  return changes.reduce((now, { from, to }) => {
    const count = now.split(from).length - 1
    if (count !== 1) throw new Error(`${path} holds “${from}” ${count} times`)
    return now.replace(from, () => to)
  }, text)
}
