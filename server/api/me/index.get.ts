/** Who is signed in. */
export default api({ role: 'viewer' }, async ({ account }) => ({ name: account.name, role: account.role }))
