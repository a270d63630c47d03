import { LineIndex } from '@pasticcio/core'
import { workspaceFor } from '../../../services/workspace'

/** Everything that is wrong in the server's settings files, drafts in their places, with line and column. */
export default api({ role: 'viewer' }, async ({ context, server }) => {
  const { findings, workspace } = await workspaceFor(context, await server())
  const indexes = new Map([...workspace.files].map(([path, file]) => [path, new LineIndex(file.document.text)]))
  return findings.map((finding) => ({ ...finding, ...indexes.get(finding.file)?.position(finding.from) }))
})
