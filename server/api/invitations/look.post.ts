import { object } from 'yup'
import { offerOf } from '../../services/people'

const body = object({ key: keyShape }).noUnknown()

/** What an invitation offers. The key comes in the body, so that no log of addresses holds it. */
export default openApi({ body }, async ({ event, context, body: { key } }) => offerOf(context, key, addressOf(event)))
