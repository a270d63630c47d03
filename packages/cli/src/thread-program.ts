import { readFile } from 'node:fs/promises'

/** The program of the threads that check, which the packages' build makes; it lies as far from here as from what this is built into. */
const THREAD = new URL('../../check/dist/check-thread.cjs', import.meta.url)

export const threadProgram = (): Promise<string> => readFile(THREAD, 'utf8')
