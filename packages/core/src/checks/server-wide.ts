import type { FindingCode, Severity } from '../tree/nodes'
import { defineCheck } from './check'
import type { ServerFact } from './knowledge'

interface Told {
  readonly code: FindingCode
  readonly severity: Severity
  readonly words: (values: ServerFact['values']) => string
}

const TOLD: Readonly<Record<ServerFact['what'], Told>> = {
  'misplaced-package': {
    code: 'misplaced-package',
    severity: 'warning',
    words: ({ folder }) => `It lies where the server does not look for packages. Move it to ${folder}.`,
  },
  'file-of-nobody': {
    code: 'file-of-nobody',
    severity: 'note',
    words: () => 'No plugin that is installed reads it. Take it out, or install what it is of.',
  },
  'piece-missing': {
    code: 'piece-missing',
    severity: 'warning',
    words: ({ plugin, what, because }) =>
      `${plugin} asks for ${what} here${because ? ` (${because})` : ''}, and it is not. Install it anew, or put it there.`,
  },
  'plugins-off': {
    code: 'plugins-off',
    severity: 'error',
    words: ({ says }) => `${says} is off, so that none of the plugins runs. Switch it on.`,
  },
  'not-registered': {
    code: 'not-registered',
    severity: 'warning',
    words: ({ plugin, line }) => `${plugin} is here and not made known to the server. Add “${line}”.`,
  },
  'registered-nobody': {
    code: 'registered-nobody',
    severity: 'error',
    words: ({ line, near }) => `“${line}” names nothing that is here. ${near ? `Did you mean ${near}?` : 'Take the line out.'}`,
  },
  'registered-early': {
    code: 'registered-early',
    severity: 'error',
    words: ({ plugin, needs }) => `${plugin} needs ${needs}, which comes below it. Move its line behind that of ${needs}.`,
  },
  'not-utf8': {
    code: 'not-utf8',
    severity: 'error',
    words: ({ says }) => says ?? 'It is not UTF-8 text. Save it as UTF-8 first.',
  },
  'failed-to-load': {
    code: 'plugin-failed',
    severity: 'error',
    words: ({ plugin, reason }) => `${plugin} was not loaded at the last start: ${reason}`,
  },
  'requires-missing': {
    code: 'needs-plugin',
    severity: 'error',
    words: ({ plugin, needs, range }) =>
      `${plugin} needs ${needs} ${range}, which is not on this server. Install it, or take ${plugin} out.`,
  },
  'requires-other': {
    code: 'needs-plugin',
    severity: 'error',
    words: ({ plugin, needs, range, version }) => `${plugin} needs ${needs} ${range}, and ${version} is here. Update ${needs}.`,
  },
  'requires-off': {
    code: 'needs-plugin',
    severity: 'error',
    words: ({ plugin, needs }) => `${plugin} needs ${needs}, which is switched off. Switch it on.`,
  },
  'bad-package': {
    code: 'bad-package',
    severity: 'warning',
    words: ({ says }) => `${says}`,
  },
  'other-game': {
    code: 'other-game',
    severity: 'warning',
    words: ({ plugin, range, version }) =>
      `${plugin} is for game ${range}, and ${version} runs here. Look for a version of it that fits, or see in the console whether it loads.`,
  },
  conflict: {
    code: 'conflicting-plugin',
    severity: 'error',
    words: ({ plugin, other }) => `${plugin} does not go together with ${other}, which is here too. Take one of the two out.`,
  },
}

/** What is wrong with the server as a whole: packages, registrations, pieces, requirements. */
export const serverIsSound = defineCheck({
  id: 'server-is-sound',
  scope: 'server',
  codes: [...new Set(Object.values(TOLD).map(({ code }) => code))],
  *run({ knowledge }) {
    for (const { what, file, from, to, line, values } of knowledge.facts) {
      const { code, severity, words } = TOLD[what]
      yield { code, severity, file, from, to, message: words(values), cause: `${what} ${file}`, ...(line === undefined ? {} : { line }) }
    }
  },
})
