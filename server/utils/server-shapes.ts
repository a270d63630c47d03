import { array, object, string } from 'yup'

/** What requests about adding a server hold. */
export const folderShape = string().max(1000).required('the folder is missing')
export const commandShape = array(string().max(2000).required())
  .min(1, 'the command that starts it is missing')
  .max(100)
  .required('the command is missing')
export const setupShape = object({
  folder: folderShape,
  familyId: string().max(100).required('the family is missing'),
  command: commandShape,
})
export const slugShape = string()
  .matches(
    /^[a-z0-9][a-z0-9-]{0,39}$/,
    'a server’s name has small letters, digits and dashes, 40 at most, and begins with a letter or digit',
  )
  .required('the server’s name is missing')
