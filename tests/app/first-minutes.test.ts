import { parseArgsStringToArgv } from 'string-argv'
import type { VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import AccountMenu from '../../app/components/frame/AccountMenu.vue'
import TopShell from '../../app/components/frame/TopShell.vue'
import ServerSwitch from '../../app/components/frame/ServerSwitch.vue'
import SignInAgain from '../../app/components/house/SignInAgain.vue'
import SignInForm from '../../app/components/house/SignInForm.vue'
import FolderFound from '../../app/components/servers/FolderFound.vue'
import StartCommand from '../../app/components/servers/StartCommand.vue'
import TryResult from '../../app/components/servers/TryResult.vue'
import NoSettings from '../../app/components/sheet/NoSettings.vue'
import Account from '../../app/pages/account.vue'
import Index from '../../app/pages/index.vue'
import Join from '../../app/pages/join.vue'
import People from '../../app/pages/people.vue'
import Servers from '../../app/pages/servers/index.vue'
import NewServer from '../../app/pages/servers/new.vue'
import SignIn from '../../app/pages/sign-in.vue'
import { useNewServerStore } from '../../app/stores/new-server'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import { callApi, onSignedOut } from '../../app/utils/api'
import { counted } from '../../app/utils/counted'
import { cspNonce } from '../../app/utils/csp-nonce'
import { quotedWord } from '../../app/utils/quoted-word'
import { momentOf } from '../../app/utils/moments'
import type { Person, Survey, Try } from '../../app/utils/types'
import { button, route, show, text } from './pages'
import { answering, navigated, overviewOf, until } from './world'

const type = async (wrapper: VueWrapper, id: string, value: string): Promise<void> => wrapper.get(`#${id}`).setValue(value)
const maren = { name: 'maren', role: 'owner', hasPassword: true } as const

beforeEach(() => {
  useSessionStore().me = maren
})
afterEach(() => {
  onSignedOut(() => undefined)
  window.location.hash = ''
  vi.unstubAllGlobals()
})

const survey: Survey = {
  folder: '/srv/low-bank',
  families: [
    {
      family: 'archive',
      title: 'Archive plugins',
      versionFile: 'brackwater.yml',
      hasVersionFile: true,
      folder: 'extras',
      hasFolder: true,
      packages: 2,
      registers: [],
      hasRegisters: [],
      score: 6,
    },
  ],
  family: 'archive',
  game: '7.2',
  plugins: [{ name: 'Purse', version: '1.8.0', file: 'extras/Purse.pack', settingsFiles: 2, records: 0 }],
  strangers: ['extras/Broken.pack'],
  settingsFiles: 2,
  withoutFactory: ['extras/Purse/own.yml'],
  starters: ['start here.sh'],
  slug: 'low-bank',
}
const trial = (more: Partial<Try>): Try => ({ id: 't', status: 'passed', steps: [], lines: [], ...more })

describe('words', () => {
  it.each([
    [0, 'no files'],
    [1, '1 file'],
    [2, '2 files'],
    [1512, '1,512 files'],
  ])('counts %i', (count, words) => expect(counted(count, 'file')).toBe(words))

  it('tells moments', () => {
    expect(momentOf('2026-11-23T14:06:22')).toBe('23 Nov, 14:06')
    expect(momentOf('2026-11-23T14:06:22', { seconds: true })).toBe('23 Nov, 14:06:22')
  })

  it('finds the nonce of the page', () => {
    expect(cspNonce()).toBe('')
    document.head.insertAdjacentHTML('beforeend', '<meta property="csp-nonce" nonce="abc">')
    document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')!.nonce = 'abc'
    expect(cspNonce()).toBe('abc')
  })
})

describe('the session', () => {
  it('tells when it is over, but not while somebody signs in', async () => {
    const over = vi.fn()
    onSignedOut(over)
    const refused = (): never => {
      throw { status: 401, code: 'not-signed-in', title: 'No.' }
    }
    answering({ 'POST /api/sign-in': refused, 'GET /api/me': refused })
    await expect(callApi('/api/sign-in', { body: {} })).rejects.toMatchObject({ code: 'not-signed-in' })
    expect(over).not.toHaveBeenCalled()
    await expect(callApi('/api/me')).rejects.toMatchObject({ status: 401 })
    expect(over).toHaveBeenCalledOnce()
  })

  it('ends here or everywhere', async () => {
    const { asked } = answering({ 'POST /api/sign-out': {} })
    await useSessionStore().signOut()
    await useSessionStore().signOut(true)
    expect(asked.map(({ body }) => body)).toEqual([{ everywhere: false }, { everywhere: true }])
    expect(useSessionStore().me).toBeNull()
    expect(navigated).toEqual(['/sign-in', '/sign-in'])
  })

  it('is taken up again where one is', async () => {
    const answers: Record<string, unknown> = {
      'GET /api/me': () => {
        throw { status: 401, code: 'not-signed-in', title: 'You are not signed in.' }
      },
      'POST /api/sign-in': {},
    }
    answering(answers)
    const part = show(SignInAgain)
    expect(text()).not.toContain('You were signed out')
    useSessionStore().isLost = true
    await until(() => expect(text()).toContain('You were signed out'))
    button('I signed in elsewhere').click()
    await until(() => expect(text()).toContain('You are not signed in.'))
    expect((document.querySelector('#name') as HTMLInputElement).value).toBe('maren')
    answers['GET /api/me'] = maren
    await part.getComponent(SignInForm).get('#password').setValue('secret words')
    await part.getComponent(SignInForm).get('form').trigger('submit')
    await until(() => expect(useSessionStore().isLost).toBe(false))
  })

  it('stays when signing out did not work', async () => {
    answering({})
    await expect(useSessionStore().signOut()).rejects.toMatchObject({ code: 'unreachable' })
    expect(useSessionStore().me).toEqual(maren)
  })

  it.each([
    ['owner', ['Servers', 'Plugin sites', 'Families', 'People', 'Storage', 'Your account', 'Sign out']],
    ['viewer', ['Servers', 'Plugin sites', 'Families', 'Your account', 'Sign out']],
  ] as const)('has a menu for the %s', async (role, expected) => {
    useSessionStore().me = { ...maren, role }
    show(AccountMenu)
    button(`maren ${role}`).click()
    await until(() => expect([...document.querySelectorAll('[role="menuitem"]')].map((item) => item.textContent!.trim())).toEqual(expected))
  })

  it('says when signing out did not work', async () => {
    answering({})
    show(TopShell)
    button('maren owner').click()
    await until(() => expect(text()).toContain('Sign out'))
    ;[...document.querySelectorAll<HTMLElement>('[role="menuitem"]')]
      .find((item) => item.textContent!.includes('Sign out'))!
      .querySelector<HTMLElement>('.menu-item')!
      .click()
    await until(() => expect(document.querySelector('.toast.bad')?.textContent).toContain('Pasticcio does not answer'))
    expect(useSessionStore().me).toEqual(maren)
  })

  it('leads to other servers', async () => {
    useServerStore().slug = 'lantern-row'
    answering({ 'GET /api/servers': [{ slug: 'lantern-row' }, { slug: 'night-market' }] })
    show(ServerSwitch)
    button('lantern-row').click()
    await until(() => expect(text()).toContain('night-market'))
    expect(text()).toContain('All servers')
  })
})

describe('signing in', () => {
  it('asks for name and password, and goes back to where one was', async () => {
    route.query = { to: '/s/lantern-row/history' }
    const { asked } = answering({ 'GET /api/sign-in': { isSetUp: true }, 'POST /api/sign-in': {} })
    const page = show(SignIn)
    await until(() => expect(text()).toContain('Forgot it?'))
    expect(button('Sign in').disabled).toBe(true)
    await type(page, 'name', ' maren ')
    await type(page, 'password', 'secret words')
    await page.get('form').trigger('submit')
    await until(() => expect(navigated).toEqual(['/s/lantern-row/history']))
    expect(asked.at(-1)).toEqual({ key: 'POST /api/sign-in', body: { name: 'maren', password: 'secret words' } })
  })

  it.each(['https://elsewhere.example/x', '//elsewhere.example', '/\\elsewhere.example'])('is led to no other site by %s', async (to) => {
    route.query = { to, key: 'maren.x' }
    answering({ 'POST /api/sign-in': {} })
    show(SignIn)
    await until(() => expect(navigated).toEqual(['/']))
  })

  it('says what is wrong, and that nobody has an account yet', async () => {
    answering({
      'GET /api/sign-in': { isSetUp: false },
      'POST /api/sign-in': () => {
        throw { status: 429, code: 'too-many-attempts', title: 'Try again in 4 s.' }
      },
    })
    show(SignIn)
    await until(() => expect(text()).toContain('Nobody has an account here yet'))
    route.query = { key: 'maren.wrong' }
    show(SignIn)
    await until(() => expect(text()).toContain('Try again in 4 s.'))
  })
})

describe('an invitation', () => {
  const offer = (more: object) => ({ role: 'editor', invitedBy: 'maren', expiresAt: '', name: null, ...more })

  it.each([
    [{}, 'maren invites you as editor', 'changes settings'],
    [{ role: 'owner', invitedBy: '' }, 'Create the owner', 'may do everything'],
    [{ role: 'viewer' }, 'maren invites you as viewer', 'change nothing'],
    [{ name: 'tobiah' }, 'A new password for tobiah', 'signed out'],
  ])('offers %j', async (more, title, words) => {
    answering({ 'POST /api/invitations/look': offer(more) })
    show(Join)
    await until(() => expect(text()).toContain(title))
    expect(text()).toContain(words)
  })

  it('is taken when name and passwords are right', async () => {
    window.location.hash = '#the-key'
    const { asked } = answering({ 'POST /api/invitations/look': offer({}), 'POST /api/invitations/accept': {} })
    const page = show(Join)
    await until(() => expect(text()).toContain('maren invites you'))
    await type(page, 'name', 'tobiah')
    await type(page, 'password', 'short')
    await type(page, 'again', 'other')
    expect(text()).toContain('The two differ')
    expect(button('Create the account').disabled).toBe(true)
    await type(page, 'password', 'a long enough one')
    await type(page, 'again', 'a long enough one')
    await page.get('form').trigger('submit')
    await until(() => expect(navigated).toEqual(['/']))
    expect(asked.at(-1)!.body).toEqual({ key: 'the-key', name: 'tobiah', password: 'a long enough one' })
  })

  it('says when it is gone, or the name is taken', async () => {
    answering({
      'POST /api/invitations/look': () => {
        throw { status: 410, code: 'invitation-gone', title: 'This invitation was used.' }
      },
    })
    show(Join)
    await until(() => expect(text()).toContain('This link does not work'))
    expect(text()).toContain('This invitation was used.')
  })
})

describe('people', () => {
  const person = (name: string, more: Partial<Person> = {}): Person => ({
    id: name.length,
    name,
    role: 'editor',
    hasPassword: true,
    sessions: 1,
    lastSignIn: '2026-11-23T14:06:22',
    ...more,
  })
  const answers = {
    'GET /api/me': maren,
    'GET /api/people': {
      people: [
        person('maren', { role: 'owner' }),
        person('tobiah'),
        person('isolde', { sessions: 0, lastSignIn: null, hasPassword: false }),
      ],
      invitations: [{ id: 7, role: 'viewer', accountId: null, invitedBy: '', expiresAt: '2026-11-30T10:00:00', name: null }],
    },
  }

  it('are listed with what can be done', async () => {
    answering(answers)
    show(People)
    await until(() => expect(text()).toContain('3 with an account'))
    for (const words of ['23 Nov, 14:06', 'not signed in', 'by the demo’s link', 'a new viewer', 'the start of Pasticcio'])
      expect(text()).toContain(words)
    expect(button('Remove maren').disabled).toBe(true)
    expect(button('Sign out isolde').disabled).toBe(true)
  })

  it('are invited, helped, signed out and let go', async () => {
    const { asked } = answering({
      ...answers,
      'POST /api/people/invitations': { key: 'fresh' },
      'POST /api/people/tobiah/link': { key: 'again' },
      'POST /api/people/tobiah/sign-out': {},
      'DELETE /api/people/invitations/7': {},
      'DELETE /api/people/tobiah': {},
    })
    const page = show(People)
    await until(() => expect(text()).toContain('3 with an account'))
    await page.get('form').trigger('submit')
    await until(() => expect(text()).toContain('/join#fresh'))
    button('New password for tobiah').click()
    await until(() => expect(text()).toContain('/join#again'))
    button('Sign out tobiah').click()
    button('Withdraw').click()
    button('Remove tobiah').click()
    await until(() => expect(text()).toContain('Remove the account of tobiah?'))
    button('Remove').click()
    await until(() => expect(asked.map(({ key }) => key)).toContain('DELETE /api/people/tobiah'))
    expect(asked.find(({ key }) => key === 'POST /api/people/invitations')!.body).toEqual({ role: 'editor' })
  })

  it('change their own password', async () => {
    const { asked } = answering({ 'GET /api/me': maren, 'PUT /api/me/password': {} })
    const page = show(Account)
    await until(() => expect(text()).toContain('Present one'))
    await type(page, 'current', 'the old one')
    await type(page, 'password', 'a new long one')
    await type(page, 'again', 'a new long one')
    await page.get('form').trigger('submit')
    await until(() => expect(text()).toContain('The password is changed'))
    expect(asked.find(({ key }) => key.startsWith('PUT'))!.body).toEqual({ current: 'the old one', password: 'a new long one' })
  })
})

describe('adding a server', () => {
  it('looks, tries exactly what is to be added, and adds it', async () => {
    let polls = 0
    const { asked } = answering({
      'POST /api/servers/survey': survey,
      'POST /api/servers/tries': { id: 't' },
      'GET /api/servers/tries/t': () => trial({ status: ++polls < 2 ? 'running' : 'passed' }),
      'POST /api/servers': { slug: 'low-bank' },
    })
    const store = useNewServerStore()
    store.folder = ' /srv/low-bank '
    await store.look()
    expect([store.folder, store.slug, store.commandLine]).toEqual(['/srv/low-bank', 'low-bank', 'sh "start here.sh"'])
    expect(store.command).toEqual(['sh', 'start here.sh'])
    await store.tryOut()
    expect(store.tried).toBe('t')
    expect(await store.add()).toBe('low-bank')
    const setup = { folder: '/srv/low-bank', familyId: 'archive', command: ['sh', 'start here.sh'] }
    expect(asked.find(({ key }) => key === 'POST /api/servers/tries')!.body).toEqual(setup)
    expect(asked.at(-1)!.body).toEqual({ ...setup, slug: 'low-bank', tried: 't', untried: false })
    // another command was not tried
    store.commandLine = 'sh other.sh'
    await until(() => expect(store.tried).toBeNull())
    // looking again, for another family, keeps what was typed
    store.slug = 'mine'
    await store.look('archive')
    expect([store.slug, store.commandLine]).toEqual(['mine', 'sh other.sh'])
    store.reset()
    expect(store.survey).toBeNull()
  })

  it('keeps what was typed when it cannot be done', async () => {
    answering({
      'POST /api/servers/survey': () => {
        throw { status: 502, code: 'unreachable', title: '/srv/x: there is no such folder.' }
      },
    })
    const store = useNewServerStore()
    store.folder = '/srv/x'
    await store.look()
    expect([store.folder, store.problem, store.busy]).toEqual(['/srv/x', '/srv/x: there is no such folder.', ''])
    expect(await store.add()).toBeNull()
  })

  it('takes nothing that was found in one folder for what is in another', async () => {
    const answers: Record<string, unknown> = { 'POST /api/servers/survey': survey, 'POST /api/servers': { slug: 'low-bank' } }
    const { asked } = answering(answers)
    const store = useNewServerStore()
    store.folder = '/srv/low-bank'
    await store.look()
    // typed on, and not looked at
    store.folder = '/srv/other'
    await store.add(true)
    expect(asked.at(-1)!.body).toMatchObject({ folder: '/srv/low-bank' })
    answers['POST /api/servers/survey'] = () => {
      throw { status: 400, code: 'bad-folder', title: '/srv/other: there is no such folder.' }
    }
    await store.look()
    expect([store.survey, store.problem]).toEqual([null, '/srv/other: there is no such folder.'])
  })

  it('has a page that goes step by step', async () => {
    answering({ 'GET /api/me': maren, 'POST /api/servers/survey': survey })
    const page = show(NewServer)
    await until(() => expect(text()).toContain('It is only looked at'))
    expect(text()).not.toContain('How it is started')
    await type(page, 'folder', '/srv/low-bank')
    await page.get('form').trigger('submit')
    await until(() => expect(text()).toContain('How it is started'))
    expect(button('Try it').disabled).toBe(false)
    expect(button('Add low-bank').disabled).toBe(true)
    expect(button('Add it untried').disabled).toBe(false)
  })

  it('shows what was found', () => {
    show(FolderFound, { survey, busy: false })
    for (const words of ['Purse 1.8.0', '2 packages', '1 file: these can be edited', 'extras/Broken.pack looks like a package', '7.2'])
      expect(text()).toContain(words)
    show(FolderFound, { survey: { ...survey, family: null }, busy: false })
    expect(text()).toContain('Nothing here looks like a server')
  })

  it('shows how trying goes', () => {
    const lines = [{ seq: 1, time: '12:00:00', level: 'info', text: 'no port is free', event: null }]
    const steps = [
      { step: 'folder', ok: true, detail: 'It may be read and written.' },
      { step: 'start', ok: false, detail: 'It ended with code 3.' },
      { step: 'stop', ok: null, detail: '' },
    ] as const
    show(TryResult, { trial: trial({ status: 'failed', steps, lines }) })
    for (const words of ['The folder', 'It ended with code 3.', 'under way …', 'no port is free']) expect(text()).toContain(words)
    expect(document.querySelector('[aria-label="error"]')).not.toBeNull()
  })
})

describe('how a server is started', () => {
  it.each([
    [['node', 'server.mjs'], 'node server.mjs'],
    [['/opt/my server/run', "it's", 'say "no"', ''], '"/opt/my server/run" "it\'s" \'say "no"\' ""'],
  ])('%j is typed as it is read again', (words, line) => {
    expect(words.map(quotedWord).join(' ')).toBe(line)
    expect(parseArgsStringToArgv(line)).toEqual(words)
  })

  it('is shown to the owner, and changed while it is stopped', async () => {
    useServerStore().$patch({ slug: 'lantern-row', state: { status: 'running', players: 1, ticks: 20 } })
    const { asked } = answering({ 'GET /command': { command: ['sh', 'start.sh'] }, 'PUT /command': {} })
    const part = show(StartCommand)
    await until(() => expect(text()).toContain('sh start.sh'))
    expect(button('Change').disabled).toBe(true)
    useServerStore().state = { status: 'stopped', players: null, ticks: null, memory: null, since: null }
    await until(() => expect(button('Change').disabled).toBe(false))
    button('Change').click()
    await until(() => expect(part.find('input').exists()).toBe(true))
    await part.get('input').setValue('sh "other one.sh"')
    await part.get('form').trigger('submit')
    await until(() => expect(asked.some(({ key }) => key === 'PUT /command')).toBe(true))
    expect(asked.find(({ key }) => key === 'PUT /command')!.body).toEqual({ command: ['sh', 'other one.sh'] })
  })
})

describe('all servers', () => {
  const server = {
    slug: 'lantern-row',
    family: 'Archive plugins',
    folder: '/srv',
    status: 'stopped',
    players: null,
    ticks: null,
    memory: null,
    since: null,
  }

  it('are listed, and forgotten when that is wanted', async () => {
    const house = [{ ...server, problem: '', about: null }]
    const load = { from: 0, until: 86400, step: 300, points: [], marks: [] }
    const { asked } = answering({
      'GET /api/me': maren,
      'GET /api/house': house,
      'GET /load': load,
      'GET /load/plugins': [],
      'DELETE ': {},
    })
    show(Servers)
    await until(() => expect(text()).toContain('0 running, 1 not'))
    expect(text()).toContain('Archive plugins')
    button('Forget lantern-row').click()
    await until(() => expect(text()).toContain('Its own files stay as they are'))
    button('Forget').click()
    await until(() => expect(asked.some(({ key }) => key.startsWith('DELETE'))).toBe(true))
  })

  it.each([
    ['owner', 'Add a server'],
    ['viewer', 'An owner can add one'],
  ] as const)('say to the %s what to do where there is none', async (role, words) => {
    answering({ 'GET /api/me': { ...maren, role }, 'GET /api/house': [] })
    show(Servers)
    await until(() => expect(text()).toContain('No server is connected yet'))
    expect(text()).toContain(words)
  })

  it.each([
    [[server], 'owner', '/s/lantern-row/plugins'],
    [[], 'owner', '/servers/new'],
    [[], 'viewer', '/servers'],
  ] as const)('are where the first page leads: %#', async (servers, role, to) => {
    answering({ 'GET /api/me': { ...maren, role }, 'GET /api/servers': servers })
    show(Index)
    await until(() => expect(navigated).toEqual([to]))
  })

  it('say what is wrong when they cannot be asked for', async () => {
    answering({})
    show(Index)
    await until(() => expect(text()).toContain('Pasticcio does not answer'))
  })
})

describe('a server without settings files', () => {
  const bare = (count: number) => {
    const overview = overviewOf()
    return { ...overview, plugins: overview.plugins.slice(0, count).map((plugin) => ({ ...plugin, files: [] })) }
  }
  it.each([
    [0, 'stopped', {}, 'Install one', 'Go to Plugins'],
    [2, 'stopped', {}, 'it is not running', 'Go to Server'],
    [2, 'running', {}, 'None of the 2 plugins here wrote one', 'Go to Server'],
    [1, 'running', {}, 'Purse wrote none', 'Go to Server'],
    [2, 'running', { plugin: 'Hampers' }, 'Hampers has no settings file', 'Go to Server'],
  ] as const)('says why, with %i plugins while it is %s', (count, status, query, words, next) => {
    route.query = query
    useServerStore().$patch({
      slug: 'lantern-row',
      overview: bare(count),
      state: { status, players: null, ticks: null, memory: null, since: null },
    })
    show(NoSettings)
    expect(text()).toContain(words)
    expect(text()).toContain(next)
  })
})
