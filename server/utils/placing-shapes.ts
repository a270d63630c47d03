import { array, boolean, lazy, number, object, string } from 'yup'

const foldersShape = lazy((value: unknown) =>
  object(Object.fromEntries(Object.keys(value ?? {}).map((name) => [name, string().required().max(200)]))).default({}),
)

/** What is to be installed, and how; see `PlacingInput`. */
const fields = {
  packages: array(number().integer().required()).min(1, 'packages takes the numbers of packages in the pantry').required(),
  folders: foldersShape,
  without: array(string().required()).default([]),
  place: string().nullable().max(200).default(null),
  overwrite: array(string().required()).default([]),
  switchOn: boolean().default(false),
}

export const placingShape = object(fields).noUnknown()
export const installShape = object({
  ...fields,
  planSha: string().required('planSha is missing: name the plan you looked at by its sha, as POST …/installs/plan gives it'),
}).noUnknown()

export const pluginParams = object({ plugin: string().required() })
export const keepShape = string()
  .oneOf(['keep', 'archive'] as const)
  .default('keep')
