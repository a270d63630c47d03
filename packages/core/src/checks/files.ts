import { levelOf } from '../rules/rule'
import { defineCheck } from './check'
import { looksOf, sourceFor, type ValueLook } from './looks'
import { nearest } from './near'

/** Files and pictures that settings name: that they are there, and of the size that is asked for. */
export const filesAreThere = defineCheck({
  id: 'files-are-there',
  scope: 'file',
  codes: ['no-such-file', 'picture-size'],
  *run({ knowledge }, file) {
    const { paths, pictures } = knowledge
    if (!paths) return
    const looks = looksOf(file)
    for (const value of looks.values) {
      if (value.isShipped || !namesFile(value)) continue
      const { from, to } = value.node
      const severity = levelOf(sourceFor(looks.book, value, 'means'))
      const { path, folder } = placeOf(file.path, value)
      const size = pictures.get(path)
      const { width, height } = value.rule!
      if (!paths.has(path)) {
        const beside = [...paths].filter((one) => one.startsWith(folder)).map((one) => one.slice(folder.length))
        const near = nearest(value.text, beside)?.id
        const next = near ? `Did you mean ${near}?` : `Put it there, or name another.`
        yield { code: 'no-such-file', severity, from, to, message: `There is no file ${path}. ${next}`, cause: `file ${path}` }
      } else if (size && width && height && (size.width !== width || size.height !== height)) {
        const message = `${value.text} is ${size.width} by ${size.height}, and ${width} by ${height} is taken. Fit it to that size.`
        yield { code: 'picture-size', severity, from, to, message, cause: `picture ${path}` }
      }
    }
  },
})

const namesFile = ({ rule, text }: ValueLook): boolean =>
  (rule?.means === 'file' || rule?.means === 'picture') && text !== '' && !/^[a-z]+:\/\//i.test(text) && !text.includes('{')

/** Where a file lies that a setting names: below the folder of the settings. */
function placeOf(settings: string, { rule, text }: ValueLook): { path: string; folder: string } {
  const home = settings.slice(0, settings.lastIndexOf('/') + 1)
  const folder = rule?.folder ? `${home}${rule.folder}/` : home
  const parts: string[] = []
  for (const part of `${folder}${text}`.split('/')) {
    if (part === '..') parts.pop()
    else if (part !== '.' && part !== '') parts.push(part)
  }
  return { path: parts.join('/'), folder }
}
