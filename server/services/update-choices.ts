import type { Choice } from '@pasticcio/core'
import { lazy, mixed, object, string, type Schema } from 'yup'

/** Choices by file and decision. */
export type PlanChoices = Readonly<Record<string, Readonly<Record<string, Choice>>>>

const CHOICE_IDS = ['mine', 'update', 'factory', 'converted', 'keep', 'drop', 'value'] as const

/** One way to decide, as it comes from outside. */
export const choiceSchema = object({ id: string().oneOf(CHOICE_IDS).required(), value: mixed().notRequired() })

const recordOf = <S extends Schema>(schema: S) =>
  lazy((value: unknown) => object(Object.fromEntries(Object.keys(value ?? {}).map((key) => [key, schema]))))
const choicesSchema = recordOf(recordOf(choiceSchema) as unknown as Schema)

/** Choices as they are kept. */
export function readChoices(json: string | null): PlanChoices {
  return json === null ? {} : (choicesSchema.validateSync(JSON.parse(json)) as PlanChoices)
}

export interface ChoiceInput {
  readonly packageId: number
  readonly path: string
  readonly decision: string
  readonly choice: Choice | null
}
