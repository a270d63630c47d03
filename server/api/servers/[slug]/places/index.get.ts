import { listPlaces } from '../../../../services/place-archives'

/** The places of a server. */
export default api({ role: 'viewer' }, async ({ server }) => listPlaces(await server()))
