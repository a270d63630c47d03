import { messagesOf } from '../../../services/messages'

/** Every text of the server that players read, drafts in their places, with where and when it is seen and what is wrong in it. */
export default api({ role: 'viewer' }, async ({ context, server }) => messagesOf(context, await server()))
