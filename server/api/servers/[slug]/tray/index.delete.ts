import { object, string } from 'yup'

const query = object({ path: string() })

/** Discards all drafts, or that of one file. */
export default api({ role: 'editor', query }, async ({ context, query: { path }, server }) => {
  const { row } = await server()
  const paths = path !== undefined ? [path] : (await context.drafts.list(row.id)).map((draft) => draft.path)
  await context.drafts.remove(row.id, paths)
  return { ok: true }
})
