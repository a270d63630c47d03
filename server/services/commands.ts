import type { Context } from './context'
import { ServiceError } from './errors'

/**
 * Which commands may be set from the page to run on this machine, as the host's own configuration says: none, any, or
 * those whose program is one of a list.
 */
export type CommandPolicy =
  { readonly kind: 'none' } | { readonly kind: 'any' } | { readonly kind: 'programs'; readonly programs: readonly string[] }

/** `any`, `none`, or programs with their full paths, separated by commas. */
export function readPolicy(text: string): CommandPolicy {
  if (text === 'any' || text === 'none') return { kind: text }
  return { kind: 'programs', programs: text.split(',').map((program) => program.trim()) }
}

/** @throws ServiceError `not-allowed` saying what the person who runs Pasticcio can do */
export function requireAllowed({ commands }: Pick<Context, 'commands'>, command: readonly string[]): void {
  if (commands.kind === 'any' || (commands.kind === 'programs' && commands.programs.includes(command[0] ?? ''))) return
  throw new ServiceError(
    'not-allowed',
    403,
    commands.kind === 'none'
      ? 'Commands may not be set from here on this machine. Whoever runs Pasticcio allows it with PASTICCIO_COMMANDS (docs/connect.md).'
      : `Only ${commands.programs.join(', ')} may be run from here. Whoever runs Pasticcio allows others with PASTICCIO_COMMANDS (docs/connect.md).`,
  )
}
