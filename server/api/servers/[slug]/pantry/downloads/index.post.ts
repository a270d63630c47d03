/** Begins to fetch a package, which is then watched and can be cancelled. */
export default api({ role: 'editor', body: linkShape }, async ({ context, account, body, server }) =>
  context.downloads.start(context, await server(), body, account.name),
)
