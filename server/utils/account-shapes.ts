import { object, string } from 'yup'
import { ROLES } from '../db/repositories/accounts'

/** What requests about accounts hold. */
export const passwordShape = string()
  .min(10, 'a password has at least 10 characters')
  .max(200, 'a password has at most 200 characters')
  .required('a password is missing')
export const roleShape = string()
  .oneOf([...ROLES], `a role is one of ${ROLES.join(', ')}`)
  .required('a role is missing')
export const keyShape = string().max(300).required('the key of the link is missing')
export const personParams = object({ name: string().max(100).required() })
