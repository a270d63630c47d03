import { describe, expect, it } from 'vitest'
import { nameWords } from '../src/carry/likeness'

describe('words of names', () => {
  it.each([
    ['saveEvery', 'save every'],
    ['save-every', 'save every'],
    ['XPPerLevel', 'xp per level'],
    ['min2', 'min2'],
    ['', ''],
  ])('of %s are %s', (name, words) => expect(nameWords(name).join(' ')).toBe(words))

  // by a dictionary, and not by what is told here
  it.each([
    ['price', 'prices'],
    ['prize', 'prizes'],
    ['size', 'sizes'],
    ['purchase', 'purchases'],
    ['house', 'houses'],
    ['course', 'courses'],
    ['licence', 'licences'],
    ['license', 'licenses'],
    ['case', 'cases'],
    ['use', 'uses'],
    ['fuse', 'fuses'],
    ['cause', 'causes'],
    ['bonus', 'bonuses'],
    ['status', 'statuses'],
    ['virus', 'viruses'],
    ['box', 'boxes'],
    ['tax', 'taxes'],
    ['class', 'classes'],
    ['batch', 'batches'],
    ['dish', 'dishes'],
    ['waltz', 'waltzes'],
    ['quiz', 'quizzes'],
    ['alias', 'aliases'],
    ['canvas', 'canvases'],
    ['penalty', 'penalties'],
    ['reward', 'rewards'],
    ['fee', 'fees'],
    ['node', 'nodes'],
    ['time', 'times'],
    ['age', 'ages'],
    ['rose', 'roses'],
    ['noise', 'noises'],
  ])('%s and %s are the same', (one, many) => {
    expect(nameWords(many)).toEqual(nameWords(one))
    expect(nameWords(one)).toEqual([one])
  })
})
