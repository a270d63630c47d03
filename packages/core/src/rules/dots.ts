/** What stands for a secret wherever one is shown: always as many, so that nothing is told of its length. */
export const DOTS = '•'.repeat(12)
