import { permissionsOf } from '../../../../services/permissions'

/** Groups, players and nodes of the server, drafts in their places: enough to say who may what, and why. */
export default api({ role: 'viewer' }, async ({ context, server }) => permissionsOf(context, await server()))
