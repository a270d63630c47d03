import { mount, type VueWrapper } from '@vue/test-utils'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { Decision } from '@pasticcio/core'
import BaseSegments from '../../app/components/base/BaseSegments.vue'
import BaseProgress from '../../app/components/base/BaseProgress.vue'
import AddPackage from '../../app/components/plugins/AddPackage.vue'
import AddedNote from '../../app/components/plugins/AddedNote.vue'
import InstalledList from '../../app/components/plugins/InstalledList.vue'
import PantryList from '../../app/components/plugins/PantryList.vue'
import SiteOffers from '../../app/components/plugins/SiteOffers.vue'
import DecisionNote from '../../app/components/updates/DecisionNote.vue'
import PackageFacts from '../../app/components/updates/PackageFacts.vue'
import PlanGrid from '../../app/components/updates/PlanGrid.vue'
import PlanProblems from '../../app/components/updates/PlanProblems.vue'
import PlanTray from '../../app/components/updates/PlanTray.vue'
import UpdateDone from '../../app/components/updates/UpdateDone.vue'
import { usePantryStore } from '../../app/stores/pantry'
import { usePlanStore } from '../../app/stores/plan'
import { useServerStore } from '../../app/stores/server'
import { useSessionStore } from '../../app/stores/session'
import type { PantryPackage, UpdatePlan } from '../../app/utils/types'
import { answering, navigated, overviewOf, until } from './world'

const open: VueWrapper[] = []
function show(component: Parameters<typeof mount>[0], props: Record<string, unknown> = {}): VueWrapper {
  const wrapper = mount(component as never, { props, attachTo: document.body } as never) as VueWrapper
  open.push(wrapper)
  return wrapper
}
beforeEach(() => {
  useServerStore().$patch({ slug: 'lantern-row', overview: overviewOf() })
  useSessionStore().me = { name: 'tobiah', role: 'editor', hasPassword: true }
})
afterEach(() => {
  for (const wrapper of open.splice(0)) wrapper.unmount()
  vi.unstubAllGlobals()
})

const decision = (more: Partial<Decision>): Decision => ({
  id: '/x',
  path: '/x',
  outcome: 'kept-mine',
  attention: false,
  reason: 'you changed it',
  because: [],
  ...more,
})
const scale = decision({
  id: '/pause',
  path: '/claiming/pause-ticks',
  from: '/claiming/pause',
  outcome: 'scale-changed',
  attention: true,
  weight: 'decide',
  factory: 1.5,
  mine: 2,
  update: 30,
  result: 2,
  options: [
    { id: 'mine', value: 2 },
    { id: 'converted', value: 40 },
    { id: 'update', value: 30 },
  ],
})
const moved = decision({
  id: '/tax',
  path: '/tax',
  outcome: 'moved',
  attention: true,
  weight: 'decide',
  mine: 5,
  update: 6,
  result: 5,
  options: [
    { id: 'mine', value: 5 },
    { id: 'update', value: 6 },
  ],
})
const text = 'claiming:\n  # How long.\n  pause-ticks: 2\ntax: 5\n'
const updatePlan = (decisions: Decision[], more: Partial<UpdatePlan> = {}): UpdatePlan => ({
  sha: 'plan 1',
  plugin: 'Hampers',
  from: '2.4.0',
  to: '3.0.0',
  packageId: 7,
  addedAt: '',
  changes: 'New bells.',
  requires: [{ name: 'Purse', range: '>=1.6', have: '1.8.0', fits: true }],
  problems: [],
  removed: [],
  rewritten: [],
  files: [
    {
      path: 'extras/Hampers/settings.yml',
      factory: '',
      from: null,
      mine: 'a',
      update: '',
      old: 'a',
      result: text,
      decisions,
      baseline: true,
    },
  ],
  choices: {},
  open: decisions.filter((item) => item.weight === 'decide').length,
  staged: [],
  ...more,
})

describe('the plan of an update', () => {
  async function opened(plan = updatePlan([scale, moved, decision({ outcome: 'took-update', mine: 1, update: 2, result: 2 })])) {
    const chosen: unknown[] = []
    const answers = answering({
      'GET /updates/Hampers/plan': plan,
      'PUT /updates/Hampers/choice': (body: { decision: string; choice: { id: 'mine' } | null }) => {
        chosen.push(body)
        const decisions = plan.files[0]!.decisions.map((item) =>
          item.id === body.decision && body.choice ? { ...item, attention: false, weight: undefined, chosen: body.choice.id } : item,
        )
        plan = updatePlan(decisions as Decision[])
        return plan
      },
      'GET /overview': overviewOf(),
      'GET /history': [],
    })
    const store = usePlanStore()
    await store.open('Hampers', 7)
    return { store, chosen, ...answers }
  }

  it('has decisions that wait first, and walks through what is to be seen', async () => {
    const { store } = await opened()
    expect(store.groups.map((group) => `${group.id} ${group.rows.length}`)).toEqual(['decide 2', 'followed 1'])
    expect(store.inFocus?.decision.id).toBe('/pause')
    store.move(1)
    store.move(1)
    expect(store.inFocus?.decision.id).toBe('/tax')
    store.fold('followed')
    store.move(1)
    expect(store.inFocus?.decision.outcome).toBe('took-update')
    store.fold('followed')
    store.nextOpen()
    expect(store.inFocus?.decision.id).toBe('/pause')
    expect(store.ready).toBe(false)
  })

  it('decides what stands, converted amounts first, and goes on', async () => {
    const { store, chosen } = await opened()
    await store.decide()
    expect(chosen[0]).toMatchObject({ packageId: 7, path: 'extras/Hampers/settings.yml', decision: '/pause', choice: { id: 'converted' } })
    expect(store.inFocus?.decision.id).toBe('/tax')
    await store.decide()
    expect(store.ready).toBe(true)
    await store.choose(store.rows[0]!, null)
    expect(chosen.at(-1)).toMatchObject({ choice: null })
  })

  it('takes the clear ones together, and leaves those that need eyes', async () => {
    const { store, chosen } = await opened()
    await store.keepAll()
    expect(chosen).toMatchObject([{ decision: '/tax', choice: { id: 'mine' } }])
  })

  it('lets a viewer look and not decide', async () => {
    const { store, chosen } = await opened()
    useSessionStore().me = { name: 'isolde', role: 'viewer', hasPassword: true }
    await store.decide()
    expect(chosen).toEqual([])
  })

  it('is applied once it is ready, and can be taken back', async () => {
    const row = { id: 9, status: 'verified', title: 'Update', outcome: { lines: ['12:00 info loaded'], complaints: [], message: '' } }
    const { store, asked } = await opened(updatePlan([]))
    answering({
      'POST /updates/Hampers/apply': row,
      'GET /overview': overviewOf(),
      'GET /history': [],
      'POST /history/9/undo': row,
      'GET /updates/Hampers/plan': updatePlan([]),
    })
    await store.apply()
    expect(store.done?.id).toBe(9)
    const page = show(UpdateDone, { done: store.done })
    expect(page.text()).toContain('Updated, and the server took it')
    await store.goBack()
    expect([store.done, store.plan?.plugin]).toEqual([null, 'Hampers'])
    expect(asked.length).toBe(1)
  })

  it('says why there is none', async () => {
    answering({})
    const store = usePlanStore()
    await store.open('Hampers', 7)
    expect([store.plan, store.problem]).toEqual([null, expect.stringContaining('does not answer')])
    await store.open('', null)
    expect(store.problem).toBe('')
  })

  it('is shown with its sums, rows, reasons, choices and lines of the new file', async () => {
    const { store, chosen } = await opened()
    const grid = show(PlanGrid)
    expect(grid.get('.sums').text()).toContain('2need your decision')
    expect(grid.findAll('.cr').map((row) => row.get('.lb').text())).toEqual(['Claiming: pause', 'Tax'])
    await grid.findAll('.cr')[1]!.trigger('click')
    expect(store.inFocus?.decision.id).toBe('/tax')
    const note = show(DecisionNote, { row: store.rows[0] })
    expect(note.findAll('input[type="radio"]').map((input) => (input.element as HTMLInputElement).checked)).toEqual([false, true, false])
    await until(() => expect(note.get('.lines .here').text()).toContain('pause-ticks: 2'))
    await note.findAll('input[type="radio"]')[2]!.trigger('change')
    expect(chosen.at(-1)).toMatchObject({ choice: { id: 'update' } })
    await until(() => expect(store.plan?.open).toBe(1))
    expect(show(PlanTray).text()).toContain('1 decision open')
    expect(show(PackageFacts, { plan: store.plan }).text()).toContain('Purse >=1.6, you have 1.8.0')
    const problems = { ...updatePlan([]), problems: ['Purse first.'], staged: ['extras/Hampers/settings.yml'] }
    expect(
      show(PlanProblems, { plan: problems, problem: 'Oh.' })
        .findAll('.problem')
        .map((item) => item.text().slice(0, 12)),
    ).toEqual(['Oh.', 'Purse first.', 'settings.yml'])
  })
})

describe('the pantry', () => {
  const pack = (id: number, name: string, version: string): PantryPackage => ({
    id,
    name,
    version,
    summary: `${name} of the row`,
    game: '>=7.0',
    requires: { Purse: '>=1.6' },
    authors: ['Isolde'],
    origin: 'test',
    addedAt: '',
  })
  const offer = { name: 'Signboard', version: '1.0.0', summary: 'Boards', game: '*', link: 'http://site/s.pack' }
  const coming = (more: object) => ({ id: 'd', link: 'l', size: 900, problem: '', code: '', packages: [], ...more })
  const answers = (more: Record<string, unknown> = {}) =>
    answering({
      'GET /pantry': {
        packages: [pack(1, 'Purse', '1.0.0'), pack(2, 'Gangway', '1.2.0'), pack(3, 'Gangway', '1.3.0')],
        offers: [offer, { ...offer, name: 'Purse' }],
        sites: [
          { address: 'http://site', status: 'answered', problem: '' },
          { address: 'http://slow', status: 'asking', problem: '' },
          { address: 'http://down', status: 'failed', problem: 'http://down did not answer.' },
        ],
      },
      'POST /pantry/downloads': coming({ status: 'fetching', bytes: 0 }),
      'GET /pantry/downloads/d': coming({ status: 'done', bytes: 900, packages: [{ id: 2 }] }),
      'POST /pantry/upload': [{ id: 3 }, { id: 1 }],
      'GET /overview': overviewOf(),
      ...more,
    })

  it('groups versions, and offers what it does not have', async () => {
    answers()
    const pantry = usePantryStore()
    await pantry.load()
    expect(pantry.groups.map((group) => `${group.name} ${group.versions.length}`)).toEqual(['Purse 1', 'Gangway 2'])
    expect(pantry.fresh.map((item) => item.name)).toEqual(['Signboard'])
    const list = show(PantryList)
    const words = ['1.0.0 on the server', '1.2.0 install', '1.3.0 install', 'take out']
    expect(list.findAll('button').map((button) => button.text())).toEqual(words)
    await list.findAll('button')[0]!.trigger('click')
    await list.findAll('button')[1]!.trigger('click')
    expect(navigated).toEqual(['/s/lantern-row/plugins/Purse', '/s/lantern-row/plugins/install/2'])
    const offers = show(SiteOffers).text()
    for (const words of ['Signboard', 'http://slow is being asked', 'http://down did not answer.']) expect(offers).toContain(words)
    expect(offers).not.toContain('http://site ')
  })

  it('lets a package go that nobody needs, and says why another stays', async () => {
    const inUse = () => {
      throw { status: 409, code: 'in-use', title: 'Purse 1.0.0 is installed on lantern-row.' }
    }
    const { asked } = answers({ 'DELETE /pantry/3': { ok: true }, 'DELETE /pantry/1': inUse })
    const pantry = usePantryStore()
    await pantry.load()
    await pantry.remove(pantry.packages[2]!)
    expect(asked.map(({ key }) => key)).toContain('DELETE /pantry/3')
    await pantry.remove(pantry.packages[0]!)
    expect(pantry.problem).toContain('is installed on lantern-row')
  })

  it('takes packages by link and file, and says what is wrong with one', async () => {
    const { asked } = answers()
    const pantry = usePantryStore()
    const form = show(AddPackage, { dragging: true })
    expect(form.classes()).toContain('dragging')
    await form.get('input[aria-label="Link to a package"]').setValue(' http://site/g.pack ')
    await form.get('form').trigger('submit')
    await until(() => expect(pantry.added.map(({ id }) => id)).toEqual([2]))
    expect(asked[0]).toEqual({ key: 'POST /pantry/downloads', body: { link: 'http://site/g.pack' } })
    await pantry.upload([new File(['x'], 'g.pack')])
    // a download of several: all of them can be installed at once
    expect(pantry.added.map(({ id }) => id)).toEqual([2, 1, 3])
    const note = show(AddedNote)
    expect(note.get('.btn').attributes('href')).toBe('/s/lantern-row/plugins/install/2,1,3')
    expect(note.text()).toContain('Plan installing all 3')
    answers({ 'GET /pantry/downloads/d': coming({ status: 'failed', code: 'bad-package', problem: 'It is no package.' }) })
    expect(await pantry.fetchLink('x')).toBe(false)
    expect([pantry.problem, pantry.working]).toEqual(['It is no package.', ''])
  })

  it('tells how far a package has come, until it is given up', async () => {
    let isCancelled = false
    const { asked } = answers({
      'GET /pantry/downloads/d': () =>
        coming(isCancelled ? { status: 'cancelled', code: 'cancelled', problem: 'It was cancelled.' } : { status: 'fetching', bytes: 300 }),
      'DELETE /pantry/downloads/d': () => {
        isCancelled = true
        return coming({ status: 'fetching' })
      },
    })
    const pantry = usePantryStore()
    const fetching = pantry.fetchLink('x', 'Moorings')
    await until(() => expect(pantry.download).toMatchObject({ bytes: 300, size: 900 }))
    const bar = show(BaseProgress, { label: 'Fetching', done: 300, of: 900 })
    expect(bar.attributes('aria-valuetext')).toBe('300 bytes of 900 bytes')
    await pantry.cancel()
    expect(await fetching).toBe(false)
    expect([pantry.problem, pantry.download, asked.some(({ key }) => key.startsWith('DELETE'))]).toEqual(['It was cancelled.', null, true])
  })

  it('lists what is on the server, each leading to its page and its update', () => {
    const list = show(InstalledList)
    expect(list.findAll('a').map((link) => link.attributes('href'))).toEqual([
      '/s/lantern-row/plugins/Purse',
      '/s/lantern-row/plugins/Hampers',
      '/s/lantern-row/updates/Hampers',
    ])
  })
})

it('views are chosen by a row of buttons, one of them always', async () => {
  const segments = show(BaseSegments, {
    modelValue: 'a',
    options: [
      { id: 'a', name: 'Sheet' },
      { id: 'b', name: 'Source' },
    ],
    label: 'View',
  })
  await segments.findAll('button')[1]!.trigger('click')
  expect(segments.emitted('update:modelValue')).toEqual([['b']])
  await segments.findAll('button')[0]!.trigger('click')
  expect(segments.get('[aria-pressed="true"]').text()).toBe('Sheet')
})
