import { signInKey } from '../services/accounts'

/** The accounts, with a sign-in link for each: for the owner to hand out. */
export default api({ role: 'owner' }, async ({ context }) =>
  (await context.accounts.list()).map(({ name, role }) => ({
    name,
    role,
    link: `/sign-in?key=${encodeURIComponent(signInKey(requireSecret(), name))}`,
  })),
)
