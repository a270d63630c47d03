import { notFound } from '../../services/errors'

/** What no route answers is told as such; pages are for everything outside the API. */
export default openApi({}, async ({ event }) => {
  throw notFound(`${event.method} ${event.path.split('?')[0]}`)
})
