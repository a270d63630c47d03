import { LIKES, type Assumed } from '@pasticcio/core'
import { array, number, object, string, type ObjectSchema } from 'yup'
import { assume } from '../../../../services/economy'

const MOST_KINDS = 8
const MOST_GOALS = 40
const amount = number().min(0).max(1e9)
const goal = object({
  thing: string().max(500).required('thing is missing: what is to be affordable'),
  count: number().integer().min(1).max(1_000_000).required('count is missing: how many of it'),
  kind: string().max(60).required('kind is missing: to which kind of players'),
  hours: number().moreThan(0).max(100_000).required('hours is missing: after how many hours of play'),
}).noUnknown()
const assumed: ObjectSchema<Assumed> = object({
  kinds: array(
    object({
      id: string().max(60).required('id is missing'),
      name: string().max(60).required('name is missing'),
      like: string().oneOf(LIKES).required(),
      players: amount.max(1_000_000).nullable().defined(),
      hours: number().moreThan(0).max(24).nullable().defined(),
    }).noUnknown(),
  )
    .min(1)
    .max(MOST_KINDS)
    .required()
    .test('ids', 'kinds have the same id twice', (kinds) => new Set(kinds.map(({ id }) => id)).size === kinds.length),
  rates: object()
    .required()
    .test('rates', 'rates are numbers of times, 0 to 100,000, by activity and kind', (rates) => Object.values(rates).every(areTimes)),
  goals: array(goal).max(MOST_GOALS).nullable().defined(),
}).noUnknown() as unknown as ObjectSchema<Assumed>

const MOST_TIMES = 100_000

function areTimes(times: unknown): boolean {
  const isTimes = (one: unknown): boolean => typeof one === 'number' && one >= 0 && one <= MOST_TIMES
  return typeof times === 'object' && times !== null && !Array.isArray(times) && Object.values(times).every(isTimes)
}

const body = object({ assumed: assumed.required(), since: number().integer().min(0).required() }).noUnknown()

/** Keeps what is assumed of the server's players. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  assume(context, await server(), body.assumed as Assumed, body.since, account.name),
)
