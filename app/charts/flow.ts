import type { FittedKind, FlowGroup, GroupedFlow } from '@pasticcio/core'
import type { Layout } from './stave'

/** A place of the picture: a source, a kind of player, or a drain. */
export interface FlowNode {
  readonly id: string
  readonly column: 'in' | 'kind' | 'out'
  /** Null for kinds, for what stays, and for what is taken from purses. */
  readonly group: FlowGroup | null
  readonly amount: number
  /** The middle of it from above, and how high it is drawn, in pixels. */
  readonly at: number
  readonly height: number
}

export interface FlowLink {
  readonly from: string
  readonly to: string
  readonly amount: number
  readonly paint: 'yours' | 'factory' | 'error' | 'stays'
}

export interface FlowPicture {
  readonly nodes: readonly FlowNode[]
  readonly links: readonly FlowLink[]
  /** The least distance of nodes with which the drawing library comes to these heights. */
  readonly gap: number
}

/** What is put together of many small ones. */
export const REST = { in: 'rest in', out: 'rest out' } as const
export const STAYS = 'stays'
export const PURSES = 'purses'
/** A label of two lines needs so much. */
const LABEL = 31
const LEAST_GAP = 11
const THICK = 5

/** So many labels have room on each side. */
export const roomFor = (height: number): number => Math.max(3, Math.floor(height / LABEL))

/** The drawing library leaves nodes at least this part of the height, however far they are to be from each other. */
const LEAST_DRAWN = 1 / 3
const FEWEST_LABELS = 3

/**
 * Today's money an hour from its sources through kinds of players to its drains and what stays. Small ones are put together: as many as
 * have to be, so that labels and nodes have room beside each other.
 */
export function flowPicture(flow: GroupedFlow, kinds: readonly FittedKind[], height: number): FlowPicture {
  for (let room = roomFor(height); ; room--) {
    const picture = pictureWith(flow, kinds, height, room)
    if (picture.fits || room <= FEWEST_LABELS) return picture
  }
}

function pictureWith(
  flow: GroupedFlow,
  kinds: readonly FittedKind[],
  height: number,
  room: number,
): FlowPicture & { readonly fits: boolean } {
  const sides = { in: sideOf(flow.groups, 'in', room), out: sideOf(flow.groups, 'out', room - 1) }
  const links = linksOf(sides, kinds)
  const sum = (of: (link: FlowLink) => string, id: string): number =>
    links.reduce((all, link) => all + (of(link) === id ? link.amount : 0), 0)
  const amountOf = (id: string): number =>
    Math.max(
      sum(({ from }) => from, id),
      sum(({ to }) => to, id),
    )
  const column = (which: FlowNode['column'], ids: readonly { readonly id: string; readonly group: FlowGroup | null }[]): Bare[] =>
    ids.flatMap(({ id, group }) => (amountOf(id) > 0 ? [{ id, group, column: which, amount: amountOf(id) }] : []))
  const columns = [
    column('in', [
      ...sides.in.map(({ id, groups }) => ({ id, group: groups.length === 1 ? groups[0]! : null })),
      { id: PURSES, group: null },
    ]),
    column(
      'kind',
      kinds.map(({ id }) => ({ id: `kind ${id}`, group: null })),
    ),
    column('out', [
      ...sides.out.map(({ id, groups }) => ({ id, group: groups.length === 1 ? groups[0]! : null })),
      { id: STAYS, group: null },
    ]),
  ]
  const scale = scaleFor(columns, height)
  const fits = scale >= (height * LEAST_DRAWN) / mostOf(columns)
  return { nodes: columns.flatMap((nodes) => placed(nodes, scale, height)), links, gap: gapFor(columns, scale, height), fits }
}

interface Side {
  readonly id: string
  readonly groups: readonly FlowGroup[]
}

/** The largest by themselves, and what has no room as one. */
function sideOf(groups: readonly FlowGroup[], way: 'in' | 'out', room: number): Side[] {
  const own = groups.filter((group) => group.way === way && group.now > 0)
  const shown = own.length > room ? own.slice(0, room - 1) : own
  const rest = own.slice(shown.length)
  return [...shown.map((group) => ({ id: group.id, groups: [group] })), ...(rest.length > 0 ? [{ id: REST[way], groups: rest }] : [])]
}

/** What a kind has more than it spends stays; what it spends more than it has is taken from purses. */
function linksOf(sides: { readonly in: readonly Side[]; readonly out: readonly Side[] }, kinds: readonly FittedKind[]): FlowLink[] {
  const of = ({ groups }: Side, kind: string): number =>
    groups.reduce((all, { by }) => all + (by.find((one) => one.kind === kind)?.amount ?? 0), 0)
  return kinds.flatMap(({ id }) => {
    const name = `kind ${id}`
    const comes = sides.in.map((side): FlowLink => ({ from: side.id, to: name, amount: of(side, id), paint: paintOf(side) }))
    const goes = sides.out.map((side): FlowLink => ({ from: name, to: side.id, amount: of(side, id), paint: paintOf(side) }))
    const sum = (links: readonly FlowLink[]): number => links.reduce((all, { amount }) => all + amount, 0)
    const stays = sum(comes) - sum(goes)
    const rest: FlowLink =
      stays >= 0 ? { from: name, to: STAYS, amount: stays, paint: 'stays' } : { from: PURSES, to: name, amount: -stays, paint: 'stays' }
    return [...comes, ...goes, rest].filter(({ amount }) => amount > 1e-9)
  })
}

function paintOf({ groups }: Side): FlowLink['paint'] {
  if (groups.some(({ streams }) => streams.some(({ doing }) => doing === 'loop'))) return 'error'
  return groups.every(({ streams }) => streams.every(({ isShipped }) => isShipped)) ? 'factory' : 'yours'
}

type Bare = Omit<FlowNode, 'at' | 'height'>

/** What goes through the column that most goes through. */
const mostOf = (columns: readonly (readonly Bare[])[]): number =>
  Math.max(...columns.map((nodes) => nodes.reduce((all, { amount }) => all + amount, 0)), 1e-9)

/** Pixels for one of money, so that each column has room for its labels. */
function scaleFor(columns: readonly (readonly Bare[])[], height: number): number {
  const fits = (scale: number): boolean =>
    columns.every((nodes) => nodes.reduce((all, { amount, column }) => all + slotOf(amount, scale, column), 0) <= height)
  const most = mostOf(columns)
  let [low, high] = [0, height / most]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (fits(middle)) low = middle
    else high = middle
  }
  return Math.max(low, (height / most) * 0.02)
}

const slotOf = (amount: number, scale: number, column: FlowNode['column']): number =>
  Math.max(amount * scale + LEAST_GAP, column === 'kind' ? 0 : LABEL)

function placed(nodes: readonly Bare[], scale: number, height: number): FlowNode[] {
  const slots = nodes.map(({ amount, column }) => slotOf(amount, scale, column))
  const free = Math.max(0, height - slots.reduce((all, slot) => all + slot, 0))
  const between = nodes.length > 0 ? free / nodes.length : 0
  let top = 0
  return nodes.map((node, i) => {
    const at = top + (slots[i]! + between) / 2
    top += slots[i]! + between
    return { ...node, at, height: node.amount * scale }
  })
}

/** The library works its own scale out of the least gap: of all columns the one that has least room counts. */
function gapFor(columns: readonly (readonly Bare[])[], scale: number, height: number): number {
  const scaleWith = (gap: number): number =>
    Math.min(
      ...columns.flatMap((nodes) => {
        const sum = nodes.reduce((all, { amount }) => all + amount, 0)
        return sum > 0 ? [(height - (nodes.length - 1) * gap) / sum] : []
      }),
    )
  let [low, high] = [0, height]
  for (let i = 0; i < 40; i++) {
    const middle = (low + high) / 2
    if (scaleWith(middle) > scale) low = middle
    else high = middle
  }
  return (low + high) / 2
}

/** What the drawing library is given. @param columns where the three columns stand from the left, in pixels @param paint colours by name */
export function flowTraces(
  { nodes, links, gap }: FlowPicture,
  {
    width,
    height,
    columns,
    focus,
  }: { readonly width: number; readonly height: number; readonly columns: readonly [number, number, number]; readonly focus: string },
  paint: (name: string) => string,
): { readonly traces: readonly object[]; readonly layout: Layout } {
  const at = { in: columns[0], kind: columns[1], out: columns[2] }
  const index = new Map(nodes.map(({ id }, i) => [id, i]))
  const isDim = ({ from, to }: FlowLink): boolean => focus !== '' && index.has(focus) && from !== focus && to !== focus
  const fill = { yours: '--fill-yours', factory: '--fill-factory', error: '--fill-error', stays: '--semolina' }
  // ribbons of others than what is looked at give way to the page
  const colour = (name: string, link: FlowLink): string => (isDim(link) ? clear(paint(name), '66') : paint(name))
  const trace = {
    type: 'sankey',
    arrangement: 'fixed',
    orientation: 'h',
    hoverinfo: 'none',
    domain: { x: [0, 1], y: [0, 1] },
    node: {
      label: nodes.map(() => ''),
      x: nodes.map(({ column }) => (at[column] + THICK / 2) / width),
      y: nodes.map(({ at: y }) => Math.max(0.001, y / height)),
      color: nodes.map(({ id, group }) =>
        paint(id === STAYS || id === PURSES ? '--semolina' : group?.streams.some(({ doing }) => doing === 'loop') ? '--error' : '--crust'),
      ),
      line: { color: paint('--crust'), width: 0.5 },
      pad: gap,
      thickness: THICK,
    },
    link: {
      source: links.map(({ from }) => index.get(from)!),
      target: links.map(({ to }) => index.get(to)!),
      value: links.map(({ amount }) => amount),
      color: links.map((link) => colour(fill[link.paint], link)),
      // the library takes one colour for all edges
      line: { color: clear(paint('--factory'), 'b0'), width: 0.5 },
    },
  }
  const layout = { width, height, margin: { l: 0, r: 0, t: 0, b: 0, pad: 0 }, paper_bgcolor: 'transparent', plot_bgcolor: 'transparent' }
  return { traces: [trace], layout }
}

/** A colour of less strength, as `#rrggbbaa`; others than six digits stay. */
const clear = (colour: string, alpha: string): string => (/^#[0-9a-f]{6}$/i.test(colour) ? colour + alpha : colour)
