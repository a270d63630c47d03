import { viewFiles } from '../../../services/settings'

/** All settings files of the server at once, each as `file` gives it. */
export default api({ role: 'viewer' }, async ({ context, server }) => viewFiles(context, await server()))
