export type Role = 'owner' | 'editor' | 'viewer'

export interface Route {
  readonly method: 'GET' | 'POST' | 'PUT' | 'DELETE'
  readonly path: string
  /** The least role; null for routes that anybody may call. */
  readonly role: Role | null
  /** A request that is right in form; its answer may still be a refusal for what it asks. */
  readonly query?: string
  readonly body?: unknown
  readonly answers: readonly number[]
  /** Requests that are not right in form. */
  readonly bad?: readonly ({ readonly body: unknown } | { readonly query: string })[]
}

export const S = '/api/servers/lantern-row'
const file = encodeURIComponent('extras/Wardkeys/settings.yml')

/** Every route there is; the first test sees to it that none is forgotten. */
export const ROUTES: readonly Route[] = [
  { method: 'GET', path: '/api/me', role: 'viewer', answers: [200] },
  {
    method: 'PUT',
    path: '/api/me/password',
    role: 'viewer',
    body: { current: '', password: 'reed and clay at high tide' },
    answers: [200],
    bad: [{ body: {} }, { body: { password: 'short' } }, { body: { password: 'long enough a one', more: 1 } }],
  },
  { method: 'GET', path: '/api/people', role: 'owner', answers: [200] },
  {
    method: 'POST',
    path: '/api/people/invitations',
    role: 'owner',
    body: { role: 'viewer' },
    answers: [200],
    bad: [{ body: {} }, { body: { role: 'king' } }],
  },
  { method: 'DELETE', path: '/api/people/invitations/999', role: 'owner', answers: [404] },
  { method: 'PUT', path: '/api/people/nobody', role: 'owner', body: { role: 'editor' }, answers: [404], bad: [{ body: { role: 'king' } }] },
  { method: 'DELETE', path: '/api/people/nobody', role: 'owner', answers: [404] },
  { method: 'POST', path: '/api/people/nobody/sign-out', role: 'owner', answers: [404] },
  { method: 'POST', path: '/api/people/nobody/link', role: 'owner', answers: [404] },
  {
    method: 'POST',
    path: '/api/invitations/look',
    role: null,
    body: { key: 'none' },
    answers: [410],
    bad: [{ body: {} }, { body: { key: 5 } }],
  },
  {
    method: 'POST',
    path: '/api/invitations/accept',
    role: null,
    body: { key: 'none', name: 'wenna', password: 'reed and clay at high tide' },
    answers: [410],
    bad: [{ body: { key: 'none', name: 'wenna', password: 'short' } }, { body: { key: 'none' } }],
  },
  { method: 'GET', path: '/api/storage', role: 'owner', answers: [200] },
  { method: 'POST', path: '/api/storage/clear', role: 'owner', answers: [200] },
  { method: 'GET', path: '/api/servers', role: 'viewer', answers: [200] },
  {
    method: 'POST',
    path: '/api/servers',
    role: 'owner',
    body: { slug: 'other', folder: '/no/such/folder', familyId: 'archive', command: ['true'] },
    answers: [409],
    bad: [
      { body: {} },
      { body: { slug: 'No Name', folder: '/x', familyId: 'archive', command: ['x'] } },
      { body: { slug: 'other', folder: '/x', familyId: 'archive', command: [] } },
      { body: { slug: 'other', folder: '/x', familyId: 'archive', command: 'a string' } },
    ],
  },
  {
    method: 'POST',
    path: '/api/servers/survey',
    role: 'owner',
    body: { folder: '/no/such/folder' },
    answers: [400],
    bad: [{ body: {} }, { body: { folder: 5 } }],
  },
  {
    method: 'POST',
    path: '/api/servers/tries',
    role: 'owner',
    body: { folder: '/no/such/folder', familyId: 'archive', command: ['true'] },
    answers: [400],
    bad: [{ body: {} }, { body: { folder: '/x', familyId: 'archive', command: [] } }],
  },
  { method: 'GET', path: '/api/servers/tries/999', role: 'owner', answers: [404] },
  { method: 'DELETE', path: '/api/servers/tries/999', role: 'owner', answers: [404] },
  { method: 'GET', path: '/api/sign-in', role: null, answers: [200] },
  {
    method: 'POST',
    path: '/api/sign-in',
    role: null,
    body: { key: 'nobody.x' },
    answers: [401],
    bad: [{ body: {} }, { body: { key: 5 } }, { body: { name: 'maren' } }, { body: { key: 'x', name: 'maren', password: 'y' } }],
  },
  { method: 'DELETE', path: S, role: 'owner', answers: [200, 409] },
  { method: 'GET', path: `${S}/command`, role: 'owner', answers: [200] },
  {
    method: 'PUT',
    path: `${S}/command`,
    role: 'owner',
    body: { command: ['true'] },
    answers: [200, 409],
    bad: [{ body: {} }, { body: { command: [] } }, { body: { command: 'true' } }],
  },
  {
    method: 'POST',
    path: `${S}/console`,
    role: 'editor',
    body: { line: 'plugins' },
    answers: [200, 409],
    bad: [{ body: {} }, { body: { line: 5 } }, { body: { line: 'x'.repeat(2001) } }],
  },
  {
    method: 'POST',
    path: `${S}/control`,
    role: 'editor',
    body: { action: 'start' },
    answers: [200, 409],
    bad: [{ body: { action: 'explode' } }],
  },
  {
    method: 'PUT',
    path: `${S}/draft`,
    role: 'editor',
    body: { path: 'none.yml', text: '', baseSha: 'x', draftSha: null },
    answers: [404],
    bad: [
      { body: { path: 'none.yml' } },
      { body: { path: 'a', text: 'b', baseSha: 'c' } },
      { body: { path: 1, text: 2, baseSha: 3, draftSha: 4 } },
    ],
  },
  { method: 'GET', path: `${S}/events`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/file`, role: 'viewer', query: `path=${file}`, answers: [200, 404], bad: [{ query: '' }] },
  { method: 'GET', path: `${S}/files`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/findings`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/history`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/history/999`, role: 'viewer', answers: [404] },
  { method: 'POST', path: `${S}/history/999/undo`, role: 'editor', answers: [404] },
  {
    method: 'PUT',
    path: `${S}/history/999/pin`,
    role: 'editor',
    body: { pinned: true },
    answers: [404],
    bad: [{ body: {} }, { body: { pinned: 'yes' } }],
  },
  {
    method: 'POST',
    path: `${S}/installs`,
    role: 'editor',
    body: { packageId: 999 },
    answers: [404],
    bad: [{ body: {} }, { body: { packageId: '1' } }, { body: { packageId: 1.5 } }],
  },
  {
    method: 'GET',
    path: `${S}/installs/plan`,
    role: 'viewer',
    query: 'package=999',
    answers: [404],
    bad: [{ query: '' }, { query: 'package=abc' }],
  },
  { method: 'GET', path: `${S}/overview`, role: 'viewer', answers: [200] },
  { method: 'GET', path: `${S}/pantry`, role: 'viewer', answers: [200] },
  {
    method: 'POST',
    path: `${S}/pantry/link`,
    role: 'editor',
    body: { link: 'http://127.0.0.1:1/x.pack' },
    answers: [400],
    bad: [{ body: {} }],
  },
  { method: 'DELETE', path: `${S}/pantry/999`, role: 'editor', answers: [404] },
  { method: 'POST', path: `${S}/pantry/upload`, role: 'editor', query: 'name=x.pack', answers: [400, 422], bad: [{ query: '' }] },
  { method: 'POST', path: `${S}/refresh`, role: 'editor', answers: [200] },
  { method: 'GET', path: `${S}/tray`, role: 'viewer', answers: [200] },
  { method: 'DELETE', path: `${S}/tray`, role: 'editor', answers: [200] },
  {
    method: 'POST',
    path: `${S}/tray/apply`,
    role: 'editor',
    body: { drafts: [] },
    answers: [409],
    bad: [{ body: {} }, { body: { drafts: 'all' } }, { body: { drafts: [{ path: 'x' }] } }, { body: { drafts: [], all: true } }],
  },
  {
    method: 'POST',
    path: `${S}/tray/rebase`,
    role: 'editor',
    body: { path: 'none.yml' },
    answers: [404],
    bad: [{ body: {} }, { body: { path: 'x', choice: 'theirs' } }],
  },
  { method: 'GET', path: `${S}/tray/text`, role: 'viewer', query: `path=${file}`, answers: [404], bad: [{ query: '' }] },
  {
    method: 'POST',
    path: `${S}/updates/Wardkeys/apply`,
    role: 'editor',
    body: { packageId: 999, planSha: 'x' },
    answers: [404],
    bad: [{ body: {} }, { body: { packageId: 999 } }],
  },
  {
    method: 'PUT',
    path: `${S}/updates/Wardkeys/choice`,
    role: 'editor',
    body: { packageId: 999, path: 'x', decision: 'y', choice: null },
    answers: [404],
    bad: [{ body: { packageId: 1, path: 'x', decision: 'y', choice: { id: 'burn' } } }],
  },
  { method: 'GET', path: `${S}/updates/Wardkeys/plan`, role: 'viewer', query: 'package=999', answers: [404], bad: [{ query: '' }] },
  // the last, since it ends the session it comes with
  { method: 'POST', path: '/api/sign-out', role: 'viewer', body: {}, answers: [200], bad: [{ body: { everywhere: 'yes' } }] },
]
