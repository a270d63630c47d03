const body = setupShape.noUnknown()

/** Starts a server once to see whether that works; it is stopped again. */
export default api({ role: 'owner', body }, async ({ context, body: setup }) => ({ id: await context.tries.begin(context, setup) }))
