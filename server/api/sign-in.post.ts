import { defineEventHandler, readBody, setCookie } from 'h3'
import { object, string } from 'yup'
import { signIn } from '../services/accounts'

const body = object({ key: string().required().max(200) })

/** Opens a session with the key of a sign-in link. */
export default defineEventHandler(async (event) => {
  const context = await useContext()
  try {
    refuseStrangers(event)
    const { key } = await body.validate(await readBody(event), { strict: true })
    const token = await signIn(context, requireSecret(), key)
    setCookie(event, SESSION_COOKIE, token, { httpOnly: true, sameSite: 'strict', path: '/', maxAge: 30 * 86400 })
    return { ok: true }
  } catch (error) {
    return problem(event, context, error)
  }
})
