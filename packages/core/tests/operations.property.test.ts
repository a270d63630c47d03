import { DIALECTS } from './dialects'
import { formatContract } from './format-contract'

for (const dialect of DIALECTS) formatContract(dialect)
