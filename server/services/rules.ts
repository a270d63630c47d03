import { readRule, type Rule } from '@pasticcio/core'
import type { Context, Server } from './context'
import { ServiceError, notFound } from './errors'
import { note } from './note'
import { requireOwner } from './settings'

/**
 * Keeps what somebody says a setting is. It overrules what the author's description and comments say.
 * @throws ServiceError `bad-input` for what is no rule, `not-found` for a file of no plugin
 */
export async function giveRule(context: Context, server: Server, path: string, data: unknown, by: string): Promise<Rule> {
  await requireOwner(server, path)
  const rule = readOwnRule(data)
  await context.rules.save(server.row.id, { path, rule, by, at: context.now().toISOString() })
  await note(context, by, 'rule', `${path} ${rule.path}`, server)
  return rule
}

/** Takes back what somebody said of a setting. @throws ServiceError `not-found` where nobody said anything */
export async function dropRule(context: Context, server: Server, path: string, pointer: string, by: string): Promise<void> {
  if (!(await context.rules.remove(server.row.id, path, pointer))) throw notFound(`rule of yours for ${pointer} in ${path}`)
  await note(context, by, 'rule-back', `${path} ${pointer}`, server)
}

function readOwnRule(data: unknown): Rule {
  try {
    return { ...readRule(data, 'the rule'), source: 'yours' }
  } catch (error) {
    if (!(error instanceof TypeError)) throw error
    throw new ServiceError('bad-input', 400, `This is no rule: ${error.message}. docs/rules.md lists what one can say.`)
  }
}
