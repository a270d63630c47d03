/** Console commands that wait in the tray. */
export default api({ role: 'viewer' }, async ({ context, server }) => context.playerCommands.staged((await server()).row.id))
