import { describe, expect, it } from 'vitest'
import { methodsOf } from '../../server/utils/known-methods'

const ROUTES = [
  { route: '/api/servers', method: 'get' },
  { route: '/api/servers', method: 'post' },
  { route: '/api/servers/:slug/history/:id', method: 'get' },
  { route: '/api/servers/:slug/history/:id/undo', method: 'post' },
  { route: '/api/servers/tries', method: 'post' },
  { route: '/api/**', method: 'get' },
  { route: '/' },
]

describe('the methods an address takes', () => {
  it.each([
    ['/api/servers', ['GET', 'POST']],
    ['/api/servers/', []],
    ['/api/servers/lantern-row', []],
    ['/api/servers/lantern-row/history/7', ['GET']],
    ['/api/servers/lantern-row/history//undo', []],
    ['/api/servers/lantern-row/history/7/undo', ['POST']],
    ['/api/servers/tries', ['POST']],
    ['/api', []],
    ['', []],
  ])('%s: %j', (path, methods) => expect(methodsOf(path, ROUTES)).toEqual(methods))
})
