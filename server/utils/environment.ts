import { isAbsolute } from 'node:path'
import { ValidationError, array, boolean, lazy, mixed, number, object, string, type InferType } from 'yup'
import { ROLES } from '../db/repositories/accounts'
import { readPolicy, type CommandPolicy } from '../services/commands'

const serverSchema = object({
  slug: string()
    .matches(/^[a-z0-9][a-z0-9-]*$/, 'slug takes small letters, digits and dashes')
    .required(),
  familyId: string().required(),
  folder: string().required(),
  command: array(string().required()).min(1).required(),
  start: boolean().default(false),
}).noUnknown()

const isOrigin = (text: string): boolean => URL.canParse(text) && new URL(text).origin === text

const listOf = (text: unknown): string[] => String(text).split(',').filter(Boolean)

const isTrue = (name: string) => boolean().typeError(`${name} takes true or false`).default(false)

const schema = object({
  /** Where Pasticcio keeps its own data. */
  PASTICCIO_DATA: string().default('.data'),
  /** What sign-in links are made from, and secrets are encrypted with. */
  PASTICCIO_SECRET: string()
    .required('PASTICCIO_SECRET is not set (16 characters or more). Start Pasticcio with "npm start", which makes one')
    .min(16, 'PASTICCIO_SECRET has fewer than 16 characters. Start Pasticcio with "npm start", which makes one'),
  /** Origins packages may be fetched from. */
  PASTICCIO_SITES: array(
    string().required().test('origin', 'PASTICCIO_SITES takes origins as in https://plugins.example, and “${value}” is none', isOrigin),
  )
    .transform((_value, text: unknown) => (text === undefined ? [] : listOf(text)))
    .default([]),
  /** `name:role` for each account that a link signs in: the demo's. */
  PASTICCIO_ACCOUNTS: array(
    object({
      name: string().required(),
      role: string().oneOf(ROLES).required('each account of PASTICCIO_ACCOUNTS needs a role, as in maren:owner'),
    }),
  )
    .transform((_value, text: unknown) => listOf(text).map((item) => ({ name: item.split(':')[0], role: item.split(':')[1] })))
    .default([]),
  /** Prints a new link for an owner, also where there is one: for those who forgot their password. */
  PASTICCIO_OWNER_LINK: isTrue('PASTICCIO_OWNER_LINK'),
  /** Whether a proxy of one's own stands before Pasticcio, whose word on address and protocol counts. */
  PASTICCIO_BEHIND_PROXY: isTrue('PASTICCIO_BEHIND_PROXY'),
  /** The address Pasticcio is reached at, for links that it prints. */
  PASTICCIO_ORIGIN: string().test(
    'origin',
    'PASTICCIO_ORIGIN takes an origin as in https://panel.example, and “${value}” is none',
    (value) => value === undefined || isOrigin(value),
  ),
  /** Names Pasticcio answers to, with their ports where these are not the usual ones; empty for any. */
  PASTICCIO_HOSTS: array(
    string()
      .required()
      .matches(/^[a-zA-Z0-9.:[\]-]+$/, 'PASTICCIO_HOSTS takes names as in panel.example or 127.0.0.1:3000, and “${value}” is none'),
  )
    .transform((_value, text: unknown) => (text === undefined ? [] : listOf(text)))
    .default([]),
  /** Commands that owners may set to run on this machine: `none`, `any`, or programs by their full paths. */
  PASTICCIO_COMMANDS: mixed<CommandPolicy>()
    .transform((_value, text: unknown) => readPolicy(String(text)))
    .test(
      'programs',
      'PASTICCIO_COMMANDS takes any, none, or full paths as in /srv/game/start.sh',
      (policy) => policy === undefined || policy.kind !== 'programs' || policy.programs.every((program) => isAbsolute(program)),
    )
    .default({ kind: 'none' }),
  /** So many changes of each server are kept in its history. */
  PASTICCIO_KEEP_CHANGES: number()
    .typeError('PASTICCIO_KEEP_CHANGES takes a number')
    .integer()
    .min(10, 'PASTICCIO_KEEP_CHANGES takes 10 or more')
    .default(500),
  /** How often it is measured how servers run, in seconds. */
  PASTICCIO_SAMPLE_SECONDS: number()
    .typeError('PASTICCIO_SAMPLE_SECONDS takes a number')
    .integer()
    .min(1, 'PASTICCIO_SAMPLE_SECONDS takes 1 or more')
    .max(3600, 'PASTICCIO_SAMPLE_SECONDS takes 3600 at most')
    .default(60),
  /** A server to add at the first start, as JSON. */
  PASTICCIO_SERVER: lazy((text: unknown) => (text ? serverSchema.json() : serverSchema.optional().default(undefined))),
  LOG_LEVEL: string()
    .oneOf(['silent', 'fatal', 'error', 'warn', 'info', 'debug', 'trace'] as const)
    .default('warn'),
})

export type Environment = InferType<typeof schema>

/** The settings Pasticcio takes from its environment. @throws Error naming the variable and what it should be */
export function readEnvironment(from: NodeJS.ProcessEnv = process.env): Environment {
  const given = Object.fromEntries(Object.keys(schema.fields).flatMap((name) => (from[name] ? [[name, from[name]]] : [])))
  try {
    return schema.validateSync(given)
  } catch (error) {
    if (error instanceof ValidationError) throw new Error(`${error.message}.`, { cause: error })
    throw error
  }
}

let own: Environment | null = null

/** The settings of this process, read once. */
export function useEnvironment(): Environment {
  own ??= readEnvironment()
  return own
}

/** Variables that look like ours and are none, as where one is misspelt. */
export function strangeVariables(from: NodeJS.ProcessEnv = process.env): string[] {
  const known = new Set([...Object.keys(schema.fields), 'PASTICCIO_DEMO', 'PASTICCIO_GAME'])
  return Object.keys(from).filter((name) => name.startsWith('PASTICCIO_') && !known.has(name))
}
