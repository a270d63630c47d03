/** Who is signed in. */
export default api({ role: 'viewer' }, async ({ context, account: { name, role } }) => ({
  name,
  role,
  hasPassword: (await context.accounts.passwordOf(name)) !== null,
}))
