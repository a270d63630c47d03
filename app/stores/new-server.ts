import { parseArgsStringToArgv } from 'string-argv'
import { defineStore } from 'pinia'
import type { Survey, Try } from '~/utils/types'

const POLL_MS = 400

/** A server on its way in: what its folder holds, how it is started, and whether that worked. */
export const useNewServerStore = defineStore('new-server', () => {
  const folder = ref('')
  const survey = ref<Survey | null>(null)
  const slug = ref('')
  const commandLine = ref('')
  const trial = ref<Try | null>(null)
  const { busy, problem, run } = useTask()

  /** The program and its arguments: blanks part them, and quotes hold together. No shell is asked. */
  const command = computed(() => parseArgsStringToArgv(commandLine.value))
  /** What is tried and added is the folder that was looked into, whatever is typed since. */
  const setup = computed(() => ({ folder: survey.value?.folder ?? '', familyId: survey.value?.family ?? '', command: command.value }))
  const tried = computed(() => (trial.value?.status === 'passed' ? trial.value.id : null))

  function reset(): void {
    folder.value = slug.value = commandLine.value = problem.value = ''
    survey.value = trial.value = null
  }

  /** Looks into the folder, for the family that was chosen or the one it looks like. */
  function look(familyId?: string): Promise<boolean> {
    return run(async () => {
      trial.value = null
      const path = folder.value.trim()
      const isOther = survey.value?.folder !== path
      // what was found elsewhere must not be taken for what is here
      if (isOther) survey.value = null
      const found = await callApi<Survey>('/api/servers/survey', { body: { folder: path, ...(familyId ? { familyId } : {}) } })
      folder.value = path
      if (isOther) {
        slug.value = found.slug
        commandLine.value = found.starters[0] ? `sh ${quotedWord(found.starters[0])}` : ''
      }
      survey.value = found
    }, 'Looking into the folder')
  }

  /** Starts it once, shows what happens as it comes, and waits for the end. */
  function tryOut(): Promise<boolean> {
    return run(async () => {
      trial.value = null
      const { id } = await callApi<{ id: string }>('/api/servers/tries', { body: setup.value })
      do {
        trial.value = await callApi<Try>(`/api/servers/tries/${id}`)
        if (trial.value.status === 'running') await new Promise((resolve) => setTimeout(resolve, POLL_MS))
      } while (trial.value.status === 'running')
    }, 'Trying the server')
  }

  async function cancel(): Promise<void> {
    if (trial.value) await callApi(`/api/servers/tries/${trial.value.id}`, { method: 'DELETE' }).catch(() => undefined)
  }

  /** @returns the name it was added under, or null */
  async function add(untried = false): Promise<string | null> {
    let added: string | null = null
    await run(async () => {
      const body = { ...setup.value, slug: slug.value.trim(), tried: tried.value, untried }
      added = (await callApi<{ slug: string }>('/api/servers', { body })).slug
    }, 'Adding the server')
    return added
  }

  // what was tried was another command
  watch(commandLine, () => !busy.value && (trial.value = null))

  return { folder, survey, slug, commandLine, command, trial, tried, problem, busy, reset, look, tryOut, cancel, add }
})
