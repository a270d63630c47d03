// What must come of customisations of a real file, worked out on plain data from the edits that were made and nothing else:
// no layer, no decisions and no reader of ours take part.
import { random } from './data.mjs'

const isMap = (data) => typeof data === 'object' && data !== null && !Array.isArray(data)
const isPart = (data) => typeof data === 'object' && data !== null
export const print = (data) =>
  JSON.stringify(data, (_key, value) =>
    isMap(value) ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) : value,
  )

/** The value at a list of keys, or undefined. */
export const at = (data, keys) => keys.reduce((inner, key) => (isPart(inner) && Object.hasOwn(inner, key) ? inner[key] : undefined), data)

/** All single values with the keys that lead to them. */
export function leaves(data, keys = [], found = []) {
  if (!isPart(data)) found.push([keys, data])
  else for (const key of Object.keys(data)) leaves(data[key], [...keys, key], found)
  return found
}

/** All lists that hold sections. */
function sectionLists(data, keys = [], found = []) {
  if (Array.isArray(data) && data.length > 1 && data.every(isMap)) found.push(keys)
  if (isPart(data)) for (const key of Object.keys(data)) sectionLists(data[key], [...keys, key], found)
  return found
}

/** What names the items of lists: a key whose values are short texts, another one in each item of all these lists. */
export function nameKey(...lists) {
  const keys = Object.keys(lists[0]?.[0] ?? {})
  return (
    keys.find((key) =>
      lists.every(
        (list) =>
          list.every((item) => isMap(item) && typeof item[key] === 'string' && item[key].length < 60) &&
          new Set(list.map((item) => item[key])).size === list.length,
      ),
    ) ?? null
  )
}

/**
 * Edits of a file's data, each in a place of its own: [{ kind, keys, value }]. Kinds: set, add, remove (entries of
 * sections), insert, delete, move (items of lists of sections).
 */
export function makeEdits(original, count, seed, canMove) {
  const data = withoutShared(original)
  const next = random(seed)
  const pick = (list) => list[Math.floor(next() * list.length)]
  const edits = []
  const all = leaves(data).filter(([keys, value]) => keys.length > 0 && typeof value !== 'undefined' && !keys.some((key) => key === '<<'))
  const lists = sectionLists(data)
  const near = (keys) => edits.some((edit) => edit.keys.every((key, i) => keys[i] === key) || keys.every((key, i) => edit.keys[i] === key))
  // positions shift with whole items put in or taken out, so a list has either such a change or changes inside
  const inList = (keys) =>
    edits.some((edit) => ['insert', 'delete', 'move'].includes(edit.kind) && edit.keys.slice(0, -1).every((key, i) => keys[i] === key))
  for (let tries = 0; edits.length < count && tries < count * 20; tries++) {
    const kind = next()
    if (kind < 0.25 && lists.length > 0) {
      const list = pick(lists)
      const items = at(data, list)
      const i = Math.floor(next() * items.length)
      const keys = [...list, String(i)]
      if (edits.some((edit) => list.every((key, at_) => edit.keys[at_] === key)) || inList(keys)) continue
      if (kind < 0.1) edits.push({ kind: 'delete', keys })
      else if (kind < 0.18 || !canMove) {
        const name = nameKey(items)
        const scalars = Object.entries(items[i])
          .filter(([, value]) => !isPart(value))
          .map(([key, value]) => [
            key,
            typeof value === 'number'
              ? value + 1000 + Math.floor(next() * 9000)
              : typeof value === 'string'
                ? `mine ${Math.floor(next() * 1e6)}`
                : value,
          ])
        if (scalars.length === 0) continue
        edits.push({ kind: 'insert', keys, value: Object.fromEntries(name ? scalars : scalars) })
      } else {
        const to = Math.floor(next() * items.length)
        if (to !== i) edits.push({ kind: 'move', keys, to })
      }
      continue
    }
    const [keys, value] = pick(all)
    if (near(keys) || inList(keys)) continue
    const last = keys[keys.length - 1]
    const parent = at(data, keys.slice(0, -1))
    if (kind < 0.35 && isMap(parent) && Object.keys(parent).length > 1) edits.push({ kind: 'remove', keys })
    else if (kind < 0.45 && isMap(parent))
      edits.push({ kind: 'add', keys: [...keys.slice(0, -1), `mine_${edits.length}`], after: last, value: `mine ${seed} ${edits.length}` })
    else
      edits.push({
        kind: 'set',
        keys,
        value: typeof value === 'boolean' ? !value : typeof value === 'number' ? value + 7 + edits.length : `mine ${seed} ${edits.length}`,
      })
  }
  return edits
}

/** The data with what stands in several places (anchors of YAML) left out: who edits one of them edits all. */
function withoutShared(data) {
  const uses = new Map()
  const count = (part) => {
    if (!isPart(part)) return
    uses.set(part, (uses.get(part) ?? 0) + 1)
    if (uses.get(part) === 1) Object.values(part).forEach(count)
  }
  count(data)
  const copy = (part) =>
    !isPart(part)
      ? part
      : uses.get(part) > 1
        ? undefined
        : Array.isArray(part)
          ? part.map(copy)
          : Object.fromEntries(Object.entries(part).map(([key, value]) => [key, copy(value)]))
  return copy(data)
}

/** The data after the edits. */
export function edited(data, edits) {
  const result = structuredClone(data)
  for (const edit of edits) {
    const parent = at(result, edit.keys.slice(0, -1))
    const last = edit.keys[edit.keys.length - 1]
    if (!isPart(parent)) continue
    if (edit.kind === 'set' || edit.kind === 'add') parent[last] = edit.value
    else if (edit.kind === 'remove') delete parent[last]
    else if (edit.kind === 'insert') parent.splice(Number(last), 0, edit.value)
    else if (edit.kind === 'delete') parent.splice(Number(last), 1)
    else parent.splice(edit.to, 0, ...parent.splice(Number(last), 1))
  }
  return result
}

/** Which item of the update is one of the factory copy: just the same, of the same name, or each most like the other. */
function itemOf(f, u, at_) {
  const item = f[at_]
  const once = (matches) => (matches.length === 1 ? matches[0] : null)
  const same = once(u.flatMap((there, i) => (print(there) === print(item) ? [i] : [])))
  if (same !== null && f.filter((there) => print(there) === print(item)).length === 1) return same
  const name = nameKey(f, u)
  if (name) return once(u.flatMap((there, i) => (there[name] === item[name] ? [i] : [])))
  if (!isMap(item)) return null
  const place = likest(item, u)
  return isMap(u[place]) && likest(u[place], f) === at_ && common(item, u[place]) * 2 >= leaves(item).length ? place : null
}

const letters = (name) => name.toLowerCase().replace(/[^a-z0-9]/g, '')

/** Where keys of the factory copy lead in the update. */
export function whither(factory, update, keys) {
  const result = []
  let [f, u] = [factory, update]
  for (const key of keys) {
    if (!isPart(u)) return null
    let other = key
    if (Array.isArray(f) && Array.isArray(u)) {
      const place = itemOf(f, u, Number(key))
      if (place === null) return null
      other = String(place)
    } else {
      if (!isMap(f) || !isMap(u)) return null
      // a key that only changed its spelling is the same key
      if (!Object.hasOwn(u, key)) other = Object.keys(u).find((name) => letters(name) === letters(key) && !Object.hasOwn(f, name)) ?? null
      if (other === null) return null
    }
    result.push(other)
    ;[f, u] = [f?.[key], u[other]]
  }
  return result
}

/**
 * What the result must hold: settings of the update that no edit concerns, as { keys, value }, found again by names; and
 * for each edit whether it can stand in the update, and where.
 */
export function expectation(factory, update, edits) {
  const targets = edits.map((edit) => {
    const isNew = edit.kind === 'add' || edit.kind === 'insert'
    const keys = whither(factory, update, isNew ? edit.keys.slice(0, -1) : edit.keys)
    return { edit, keys: keys && isNew ? [...keys, edit.keys[edit.keys.length - 1]] : keys }
  })
  const touched = targets.filter(({ keys, edit }) => keys && edit.kind !== 'add' && edit.kind !== 'insert').map(({ keys }) => keys)
  const untouched = leaves(update).filter(
    ([keys]) => !touched.some((other) => other.every((key, i) => keys[i] === key) || keys.every((key, i) => other[i] === key)),
  )
  return { targets, untouched }
}

const signatures = new WeakMap()

/** The single values of a section, each with the names that lead to it. */
function signature(part) {
  let known = signatures.get(part)
  if (!known)
    signatures.set(
      part,
      (known = leaves(part).map(([keys, value]) => keys.filter((key) => !/^\d+$/.test(key)).join('/') + '=' + print(value))),
    )
  return known
}

/** How many single values two sections have in common, and then how few they do not. */
function common(a, b) {
  const [own, there] = [signature(a), new Set(signature(b))]
  return own.filter((text) => there.has(text)).length - Math.abs(own.length - there.size) / 1000
}

const places = new WeakMap()

/** Which item of a list has most in common with a section; remembered, since the data never changes here. */
function likest(item, list) {
  let known = places.get(list)
  if (!known) places.set(list, (known = new Map()))
  if (!known.has(item)) {
    const scores = list.map((there) => (isPart(there) ? common(item, there) : -1))
    known.set(item, scores.indexOf(Math.max(...scores)))
  }
  return known.get(item)
}

/** Where keys of the update lead in the result: the item of a list that has most in common with the update's. */
export function found(update, result, keys) {
  let [u, r] = [update, result]
  const way = []
  for (const key of keys) {
    let other = key
    if (Array.isArray(u) && Array.isArray(r)) {
      const item = u[Number(key)]
      if (!isPart(item)) {
        const same = r.findIndex((there) => print(there) === print(item))
        if (same < 0) return null
        other = String(same)
      } else {
        const best = likest(item, r)
        if (best < 0) return null
        other = String(best)
      }
    } else if (!isPart(r) || !Object.hasOwn(r, key)) return null
    way.push(other)
    ;[u, r] = [u[key], r[other]]
  }
  return { way, value: r }
}
