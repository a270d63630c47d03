import routes from '#routes'
import { setResponseHeader } from 'h3'
import { ServiceError, notFound } from '../../services/errors'

/** What no route answers is told as such; pages are for everything outside the API. */
export default openApi({}, async ({ event }) => {
  const path = event.path.split('?')[0]!
  const methods = methodsOf(path, routes)
  if (methods.length === 0) throw notFound(`address ${path.slice(0, 200)} here`)
  setResponseHeader(event, 'allow', methods.join(', '))
  throw new ServiceError('wrong-method', 405, `${path} takes ${methods.join(' or ')}, and not ${event.method}.`)
})
