/* Holds the texts that are told to be for players against labels that were written by hand (labels.yml). */

/** Whether a label's pattern is of a setting: `*` stands for any one name. */
function fits(pattern, pointer) {
  const [a, b] = [pattern.split('/'), pointer.split('/')]
  return a.length === b.length && a.every((part, i) => part === '*' || part === b[i])
}

/**
 * @param files pairs of a path and its labels, `{ pattern: 'surface moment' }`
 * @param messagesOf what is told of a file: `{ pointer, surface, moment }` of each
 * @param pointersOf all pointers of texts and lists of texts in a file, for counting what was missed
 * @returns counts, and in words what was wrong
 */
export function scoreMessages(files, messagesOf, pointersOf) {
  const counts = { right: 0, told: 0, wanted: 0, surface: 0, moment: 0 }
  const wrong = []
  for (const [path, labels] of files) {
    const patterns = Object.entries(labels)
    const labelOf = (pointer) => patterns.find(([pattern]) => fits(pattern, pointer))?.[1]
    const told = new Map(messagesOf(path).map((message) => [message.pointer, message]))
    for (const pointer of pointersOf(path)) {
      const label = labelOf(pointer)
      const message = told.get(pointer)
      if (label) counts.wanted++
      if (message) counts.told++
      if (label && !message) wrong.push(`${path} ${pointer}: not told`)
      if (message && !label) wrong.push(`${path} ${pointer}: is none, told as ${message.surface}`)
      if (!label || !message) continue
      counts.right++
      const [surface, moment] = label.split(' ')
      if (message.surface === surface) counts.surface++
      else wrong.push(`${path} ${pointer}: ${message.surface}, and is ${surface}`)
      if (message.moment === moment || message.when === moment) counts.moment++
      else wrong.push(`${path} ${pointer}: ${message.moment} ${message.when}, and is ${moment}`)
    }
  }
  return { counts, wrong }
}
