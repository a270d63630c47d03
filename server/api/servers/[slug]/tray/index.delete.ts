/** Discards all drafts, or that of one file. */
export default api({ role: 'editor' }, async ({ event, context, server }) => {
  const { row } = await server()
  const { path } = getQuery(event)
  const paths = typeof path === 'string' ? [path] : (await context.drafts.list(row.id)).map((draft) => draft.path)
  await context.drafts.remove(row.id, paths)
  return { ok: true }
})
