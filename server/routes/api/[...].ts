import routes from '#routes'
import { setResponseHeader } from 'h3'
import { ServiceError, notFound } from '../../services/errors'

/**
 * What no route answers is told as such; pages are for everything outside the API. The file has no name for the rest of
 * the address, since the router knows a wrong method for one of this kind alone.
 */
export default openApi({}, async ({ event }) => {
  const path = event.path.split('?')[0]!
  const methods = methodsOf(path, routes)
  if (methods.length === 0) throw notFound(`address ${path.slice(0, 200)} here`)
  setResponseHeader(event, 'allow', methods.join(', '))
  throw new ServiceError('wrong-method', 405, `${path} takes ${methods.join(' or ')}, and not ${event.method}.`)
})
