/*
 * Holds what rules say of settings against labels that were written by hand: `duration unit=second 5..60`, `choice {a|b}`,
 * `text len=32`. Used by the bench and by the tests, which hold it to the aims.
 */
import { readdirSync } from 'node:fs'
import { join } from 'node:path'

const folder = 'bench/labelled'
const demo = 'packages/standin/demo'

/**
 * The labelled sets: what each is called, and its files with their labels by pointer.
 * @param read gives the document of a file, and `data` what is in it
 */
export function labelledSets({ read, data }) {
  const among = (below) =>
    readdirSync(join(folder, below))
      .filter((file) => /\.(ya?ml|lua|json|ini|properties)$/.test(file) && !/labels\.yml$|^scenario/.test(file))
      .map((file) => [join(folder, below, file), data(read(join(folder, below, file.replace(/\.\w+$/, '.labels.yml'))))])
  const ofDemo = Object.entries(data(read(join(folder, 'scenario.yml')))).map(([path, labels]) => [join(demo, path), labels])
  return [
    { name: 'the demo’s', files: ofDemo },
    { name: 'others', files: among('') },
    { name: 'others, written after what tells them', files: among('unseen') },
  ]
}

/** What a label says: `duration unit=second 5..60 {a|b} len=32`. */
function labelled(label) {
  const [kind] = label.split(' ')
  const range = /(?:^| )(-?[\d.]*\d)?\.\.(-?[\d.]*\d)?(?= |$)/.exec(label)
  return {
    kind,
    unit: /unit=(\w+)/.exec(label)?.[1],
    range: range ? `${range[1] ?? ''}..${range[2] ?? ''}` : undefined,
    choices: /\{(.*)\}/.exec(label)?.[1].split('|').sort().join('|'),
    length: /len=(\d+)/.exec(label)?.[1],
  }
}

/** What the rule says of the same. */
function told(rule) {
  const kind = rule?.means ?? (rule?.kind === 'bool' ? 'switch' : rule?.kind === 'number' ? 'number' : 'text')
  const isRange = rule && (rule.min !== undefined || rule.max !== undefined) && kind !== 'weight'
  return {
    kind,
    unit: rule?.unit,
    range: isRange ? `${rule.min ?? ''}..${rule.max ?? ''}` : undefined,
    choices: rule?.choices ? [...rule.choices].sort().join('|') : undefined,
    length: rule?.maxLength === undefined ? undefined : String(rule.maxLength),
  }
}

/** Kinds that say no more than how the value is written: to say them is to say nothing. */
const PLAIN = new Set(['text', 'number'])
export const PARTS = ['kind', 'unit', 'range', 'choices', 'length']

/** How often each part of a rule was said, wanted and right. @param ruleOf the rule of a setting, by path of the file and pointer */
export function score(files, ruleOf) {
  const counts = Object.fromEntries(PARTS.map((part) => [part, { right: 0, said: 0, wanted: 0 }]))
  const wrong = []
  let settings = 0
  let plain = 0
  for (const [path, labels] of files) {
    for (const [pointer, label] of Object.entries(labels)) {
      settings++
      const wanted = labelled(label)
      const found = told(ruleOf(path, pointer))
      if (wanted.kind === found.kind) plain++
      for (const part of PARTS) {
        // the bounds of a port are known from what it is
        if (part === 'range' && wanted.kind === 'port' && wanted.range === undefined) continue
        const silent = (value) => value === undefined || (part === 'kind' && PLAIN.has(value))
        if (!silent(wanted[part])) counts[part].wanted++
        if (!silent(found[part])) counts[part].said++
        if (!silent(wanted[part]) && wanted[part] === found[part]) counts[part].right++
        if (wanted[part] !== found[part]) wrong.push(`${path} ${pointer} ${part}: ${found[part]} instead of ${wanted[part]}`)
      }
    }
  }
  return { counts, wrong, settings, plain }
}
