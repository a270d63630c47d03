import { eachSetting } from '../tree/each'
import { bookOf } from '../rules/book'
import { defineCheck } from './check'
import { fixTo, lettersOf } from './letters'
import { looksOf, textOf } from './looks'
import { nearest } from './near'
import type { WorkspaceFile } from './workspace'

/** Console commands in settings that neither the server nor a plugin has. */
export const commandsAreThere = defineCheck({
  id: 'commands-are-there',
  scope: 'file',
  codes: ['unknown-command'],
  *run({ knowledge }, file) {
    if (!knowledge.commands) return
    const looks = looksOf(file)
    const known = new Set([
      ...knowledge.commands,
      ...knowledge.plugins.flatMap(({ commands }) => Object.keys(commands)),
      ...shippedIn(file),
    ])
    for (const { rule, node, text, isShipped } of looks.values) {
      if (rule?.means !== 'command' || isShipped || node.kind !== 'text') continue
      const found = /^\/?([\p{L}\p{N}_:-]+)/u.exec(text)
      if (!found || known.has(found[1]!) || text.startsWith('{')) continue
      const near = nearest(found[1]!, known)?.id
      const letters = lettersOf(node, text, found[0].length - found[1]!.length, found[1]!.length)
      const message = `Neither the server nor a plugin here has a command ${found[1]}. ${near ? `Did you mean ${near}?` : 'Look up how it is called.'}`
      yield {
        code: 'unknown-command',
        severity: 'warning',
        from: node.from,
        to: node.to,
        message,
        cause: `command ${found[1]}`,
        ...fixTo(letters, near),
      }
    }
  },
})

/** First words of the commands the author ships. */
function shippedIn({ factory, rules }: WorkspaceFile): string[] {
  if (!factory) return []
  const book = bookOf(rules)
  return [...eachSetting(factory)].flatMap(({ keys, entry }) => {
    const means = (book.find(keys) ?? book.find(keys.slice(0, -1)))?.means
    return means === 'command' && entry.value.type === 'scalar'
      ? [/^\/?([\p{L}\p{N}_:-]+)/u.exec(textOf(factory, entry.value))?.[1] ?? '']
      : []
  })
}
