import { object, string } from 'yup'
import { addLanguage } from '../../../../services/languages'

const body = object({
  base: string().max(1000).required('base is missing: it is the texts that are to be had in one more language'),
  from: string().max(20).defined('from is missing: it is the language to begin with'),
  language: string().max(20).required('language is missing: it is the one to be added, as de'),
}).noUnknown()

/** Stages the texts of one more language, which begin as a copy of those of another. */
export default api({ role: 'editor', body }, async ({ context, account, body, server }) =>
  addLanguage(context, await server(), body, account.name),
)
