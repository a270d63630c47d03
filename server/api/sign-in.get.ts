import { isSetUp } from '../services/people'

/** What the sign-in page needs to know: whether anybody has an account. */
export default openApi({}, async ({ context }) => ({ isSetUp: await isSetUp(context) }))
