import { houseOf } from '../../services/house'

/** All servers, with how they run and what waits on each. */
export default api({ role: 'viewer' }, ({ context }) => houseOf(context))
