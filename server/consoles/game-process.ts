/*
 * Telling the processes of a game server from all others, also after Pasticcio was started anew. A process number alone
 * says little, since it is given again: with it goes when the process and the machine were started. What the server
 * starts in turn is known by its process group, and by a mark in its environment wherever it goes.
 */
import { execFile } from 'node:child_process'
import { readFile, readdir, stat } from 'node:fs/promises'
import { promisify } from 'node:util'
import { number, object, string } from 'yup'

/** What is remembered of a game server that was started. */
export interface GameRecord {
  readonly mark: string
  /** The number of the process that was started, which is that of its group too. */
  readonly pid: number
  /** When that process was started, in the system's own way of counting. */
  readonly since: string
  /** Which start of the machine that was. */
  readonly boot: string
  /** Which folder it works in, whatever that is called: a copy of the folder brings the note along, and not the game. */
  readonly folder: string
  /** ISO date. */
  readonly startedAt: string
}

/** The variable that carries the mark. */
export const MARK = 'PASTICCIO_GAME'

interface Running {
  readonly pid: number
  readonly group: number
  readonly since: string
  readonly isMarked: boolean
}

/** What is to be remembered of a process that was just started. */
export async function recordOf(pid: number, mark: string, folder: string): Promise<GameRecord> {
  const own = (await running(mark)).find((item) => item.pid === pid)
  return { mark, pid, since: own?.since ?? '', boot: await bootId(), folder, startedAt: new Date().toISOString() }
}

/** What is to be remembered of a process that is about to be started: nothing is known of it but its mark. */
export function markedOnly(mark: string, folder: string): GameRecord {
  return { mark, pid: -1, since: '', boot: '', folder, startedAt: new Date().toISOString() }
}

/** The numbers of all processes that run and belong to a start. */
export async function processesOf(record: GameRecord): Promise<number[]> {
  const all = await running(record.mark)
  const leader = all.find(({ pid }) => pid === record.pid)
  // while a group has members its number is not given again; a leader that was started later is another's
  const isOurGroup = record.boot === (await bootId()) && (leader === undefined || leader.since === record.since)
  return all.filter(({ group, isMarked }) => isMarked || (isOurGroup && group === record.pid)).map(({ pid }) => pid)
}

const running = async (mark: string): Promise<Running[]> => (await fromProc(mark)) ?? (await fromPs())

/** From the files Linux has of each process (proc_pid_stat(5), proc_pid_environ(5)); null where there are none. */
async function fromProc(mark: string): Promise<Running[] | null> {
  const names = await readdir('/proc').catch((): string[] => [])
  if (!names.includes('self')) return null
  const wanted = `${MARK}=${mark}`
  const all = names
    .filter((name) => /^\d+$/.test(name))
    .map(async (name): Promise<Running[]> => {
      const stat = await readFile(`/proc/${name}/stat`, 'latin1').catch(() => '')
      const fields = stat.slice(stat.lastIndexOf(')') + 2).split(' ')
      const [state, , group] = fields
      // one that has ended and waits for its parent runs no more
      if (stat === '' || state === 'Z' || state === 'X') return []
      const environment = await readFile(`/proc/${name}/environ`, 'latin1').catch(() => '')
      return [{ pid: Number(name), group: Number(group), since: fields[19] ?? '', isMarked: environment.split('\0').includes(wanted) }]
    })
  return (await Promise.all(all)).flat()
}

/** Where processes have no such files. */
async function fromPs(): Promise<Running[]> {
  const { stdout } = await promisify(execFile)('ps', ['-A', '-o', 'pid=,pgid=,stat=,lstart='])
  return stdout.split('\n').flatMap((line) => {
    const [pid, group, state, ...since] = line.trim().split(/\s+/)
    return pid && !state?.startsWith('Z') ? [{ pid: Number(pid), group: Number(group), since: since.join(' '), isMarked: false }] : []
  })
}

/** What tells a folder from its copies, and stays when it is moved. */
export async function folderId(path: string): Promise<string> {
  const { dev, ino } = await stat(path, { bigint: true })
  return `${dev} ${ino}`
}

/** What tells one start of the machine from the next; empty where that cannot be told. */
async function bootId(): Promise<string> {
  return (await readFile('/proc/sys/kernel/random/boot_id', 'utf8').catch(() => '')).trim()
}

/** Sends a signal to all of them. Those that end meanwhile are passed over. */
async function signalAll(record: GameRecord, signal: 'SIGTERM' | 'SIGKILL'): Promise<void> {
  for (const pid of await processesOf(record))
    try {
      process.kill(pid, signal)
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'ESRCH') throw error
    }
}

const SELDOMEST_MS = 2000

/** Waits until none of them runs. @returns whether that came to pass in time */
export async function waitForEnd(record: GameRecord, withinMs: number): Promise<boolean> {
  const until = performance.now() + withinMs
  // each look goes through all processes of the machine: the longer it takes, the seldomer
  for (let pause = 50; (await processesOf(record)).length > 0; pause = Math.min(pause * 1.5, withinMs / 30, SELDOMEST_MS)) {
    if (performance.now() > until) return false
    await new Promise((resolve) => setTimeout(resolve, pause))
  }
  return true
}

/** Asks all of them to end. */
export const askToEnd = (record: GameRecord): Promise<void> => signalAll(record, 'SIGTERM')

/** Ends all of them, and waits until none runs. */
export async function endAll(record: GameRecord, patienceMs: number): Promise<void> {
  await signalAll(record, 'SIGKILL')
  await waitForEnd(record, patienceMs)
}

/** A record as it was noted; null for what is none, or one of another folder. */
export function readRecord(note: string, folder: string): GameRecord | null {
  const noted: unknown = JSON.parse(note)
  return recordSchema.isValidSync(noted) && noted.folder === folder ? noted : null
}

const recordSchema = object({
  mark: string().required(),
  pid: number().integer().required(),
  since: string().defined(),
  boot: string().defined(),
  folder: string().required(),
  startedAt: string().required(),
})
