import { install } from '../../../../services/placing'

/** Installs packages as planned. */
export default api({ role: 'editor', body: installShape }, async ({ context, account, body, server }) =>
  install(context, await server(), body, account.name),
)
