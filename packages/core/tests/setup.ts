import fc from 'fast-check'

/** The same inputs in every run, so that a green CI stays green; FC_SEED and FC_RUNS search further by hand. */
fc.configureGlobal({ seed: Number(process.env['FC_SEED'] ?? 20261123) })
