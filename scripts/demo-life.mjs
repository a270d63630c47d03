// What the people of the demo did before somebody looks in: done once, through the same API that everybody uses, so that
// history, pantry and tray are as real as any. Node's own modules only.
import { createHmac } from 'node:crypto'
import { join } from 'node:path'

const SERVER = '/api/servers/lantern-row'
const UPDATES = ['Hampers 3.0.0', 'Gangway 2.0.0', 'Stallholder 2.2.0']

/**
 * Lets maren and tobiah work on a server that is starting, and maren add the two others, which lie in folders beside it.
 * `past` writes how they ran before, once all are there.
 * @throws Error naming the request that was refused
 */
export async function liveIn(origin, secret, { servers, command, past }) {
  const maren = await person(origin, secret, 'maren')
  const tobiah = await person(origin, secret, 'tobiah')
  await until(
    async () => (await maren.get('/api/servers')).find(({ slug }) => slug === 'lantern-row')?.status === 'running',
    'the demo’s server did not start within a minute',
  )
  await fillPantry(maren)
  await changeAndApply(tobiah, 'extras/Purse/settings.yml', '  keep-bees: 3', '  keep-bees: 4')
  await changeAndApply(maren, 'extras/Signboard/settings.yml', '  every: 20', '  every: 15')
  // the tide came too often, and was taken back
  const { id } = await changeAndApply(tobiah, 'extras/Tideclear/settings.yml', '  every: 15', '  every: 5')
  await maren.send('POST', `${SERVER}/history/${id}/undo`)
  for (const [slug, familyId] of [
    ['night-market', 'script'],
    ['ferry-trials', 'bundle'],
  ])
    await maren.send('POST', '/api/servers', { slug, folder: join(servers, slug), familyId, command, tried: null, untried: true })
  await maren.send('POST', '/api/servers/night-market/control', { action: 'start' })
  past()
  // what waits in the tray; and what is written by Pasticcio lets it see what was written beside it
  await change(
    tobiah,
    'extras/Signboard/settings.yml',
    '    text: "Night market at the row"',
    '    text: "Night market at the row until dawn"',
  )
  await change(tobiah, 'extras/Signboard/settings.yml', '    small: "Off the low banks!"', '    small: "Off the low banks, {player}!"')
}

/** Signs somebody of the demo in. `call` gives status and data, `send` the data or an error; `cookie` is of the session. */
export async function person(origin, secret, name) {
  const key = `${name}.${createHmac('sha256', secret).update(`sign-in ${name}`).digest('base64url')}`
  let cookie = ''
  const call = async (method, path, body) => {
    const response = await fetch(origin + path, {
      method,
      headers: { cookie, ...(body ? { 'content-type': 'application/json' } : {}) },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
    cookie ||= response.headers.getSetCookie()[0]?.split(';')[0] ?? ''
    return { status: response.status, data: await response.json() }
  }
  const send = async (method, path, body) => {
    const { status, data } = await call(method, path, body)
    if (status >= 400) throw new Error(`${method} ${path}: ${data.title}`)
    return data
  }
  await send('POST', '/api/sign-in', { key })
  return { call, send, get: (path) => send('GET', path), cookie }
}

async function fillPantry(someone) {
  // on a busy machine the plugin site has not answered yet
  let found = []
  await until(async () => {
    const { offers } = await someone.get(`${SERVER}/pantry`)
    found = offers.filter(({ name, version }) => UPDATES.includes(`${name} ${version}`))
    return found.length === UPDATES.length
  }, 'the demo’s plugin site did not answer within a minute')
  for (const offer of found) await someone.send('POST', `${SERVER}/pantry/link`, { link: offer.link })
}

async function change(someone, path, from, to) {
  const view = await someone.get(`${SERVER}/file?path=${encodeURIComponent(path)}`)
  const text = view.draft?.text ?? view.text
  await someone.send('PUT', `${SERVER}/draft`, {
    path,
    text: text.replace(from, () => to),
    baseSha: view.draft?.baseSha ?? view.sha,
    draftSha: view.draft?.sha ?? null,
  })
}

async function changeAndApply(someone, path, from, to) {
  await change(someone, path, from, to)
  const drafts = (await someone.get(`${SERVER}/tray`)).map(({ path, sha }) => ({ path, sha }))
  return someone.send('POST', `${SERVER}/tray/apply`, { drafts })
}

async function until(holds, problem) {
  for (let tries = 0; tries < 600; tries++) {
    if (await holds()) return
    await new Promise((resolve) => setTimeout(resolve, 100))
  }
  throw new Error(problem)
}
