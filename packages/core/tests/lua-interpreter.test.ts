import { spawnSync } from 'node:child_process'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { setValue } from '../src/formats/operations'
import { parse } from '../src/formats/registry'
import { applyEdits } from '../src/text/edits'
import { fromJson } from '../src/tree/values'
import { model, style, toData, valueArbitrary, type ModelValue } from './arbitraries'
import { DIALECTS, normal, readOurs } from './dialects'

/** A Lua interpreter of the machine, if it has one; files of the tests' own making are run by it, never a user's. */
const lua = ['lua5.4', 'lua5.3', 'lua', 'luajit'].find((name) => spawnSync(name, ['-v']).status === 0)
const runs = Number(process.env['FC_RUNS'] ?? 150)

/** Prints what a chunk returns, or the global Config it sets, as JSON with sorted keys. */
const DRIVER = `
local function quote(text)
  return '"' .. text:gsub('[%c"\\\\\\127]', function(c) return string.format('\\\\u%04x', c:byte()) end) .. '"'
end
local function dump(value)
  if type(value) == 'string' then return quote(value) end
  if type(value) ~= 'table' then return type(value) == 'number' and string.format('%.17g', value) or tostring(value) end
  local keys, parts = {}, {}
  for key in pairs(value) do keys[#keys + 1] = key end
  if #keys > 0 and #value == #keys then
    for _, item in ipairs(value) do parts[#parts + 1] = dump(item) end
    return '[' .. table.concat(parts, ',') .. ']'
  end
  table.sort(keys, function(a, b) return tostring(a) < tostring(b) end)
  for _, key in ipairs(keys) do parts[#parts + 1] = quote(tostring(key)) .. ':' .. dump(value[key]) end
  return '{' .. table.concat(parts, ',') .. '}'
end
for size in io.lines() do
  local chunk = io.read(tonumber(size))
  io.read()
  Config = nil
  local run, problem = load(chunk)
  if not run then print('ERROR ' .. problem) else
    local result = run()
    print(dump(result or { Config = Config }))
  end
end
`

/** Models without what Lua cannot tell: a field that holds nil is not there. */
function withoutNil(value: ModelValue): ModelValue {
  if (Array.isArray(value)) return value.map((item) => (item === null ? 'none' : withoutNil(item)))
  if (typeof value === 'object' && value !== null)
    return { entries: value.entries.map((entry) => ({ ...entry, value: withoutNil(entry.value) })) }
  return value === null ? 'none' : value
}

function sorted(data: unknown): unknown {
  if (Array.isArray(data)) return data.map(sorted)
  if (typeof data !== 'object' || data === null) return data
  return Object.entries(data)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([key, value]) => [key, sorted(value)])
}

describe.skipIf(!lua)('a Lua interpreter', () => {
  it.each(DIALECTS.filter((dialect) => dialect.format === 'lua').map((dialect) => [dialect.name, dialect] as const))(
    'reads what we wrote as we do: %s',
    (_name, dialect) => {
      const samples = fc.sample(fc.tuple(model, style, fc.nat(), valueArbitrary(2)), runs).flatMap(([section, how, pick, value]) => {
        const fitted = dialect.restrict(withoutNil(section) as typeof section)
        // assignments below a name that nothing made a table of are read by us, but Lua stops at them
        const text = dialect.render(fitted, { ...how, flowLists: dialect.wrap.length === 0 && how.flowLists })
        const document = parse(text, 'lua')
        const entry = fitted.entries[pick % Math.max(1, fitted.entries.length)]
        return entry
          ? [
              text,
              applyEdits(
                text,
                setValue(document, [...dialect.wrap, entry.key], fromJson(toData(dialect.restrictValue(withoutNil(value))))),
              ),
            ]
          : [text]
      })
      const input = samples.map((text) => `${Buffer.byteLength(text)}\n${text}\n`).join('')
      const done = spawnSync(lua!, ['-e', DRIVER], { input, encoding: 'utf8', maxBuffer: 1e8 })
      const lines = done.stdout.trimEnd().split('\n')
      expect(lines).toHaveLength(samples.length)
      samples.forEach((text, i) => expect(sorted(normal(JSON.parse(lines[i]!))), text).toEqual(sorted(readOurs(text, 'lua'))))
    },
  )
})
