/** Something that is asked of the server: what is under way, and in words why it could not be done. */
export function useTask() {
  const busy = ref('')
  const problem = ref('')

  /** Does it, and keeps the words of what goes wrong. @returns whether it was done */
  async function run(work: () => Promise<unknown>, what = 'Working'): Promise<boolean> {
    busy.value = what
    problem.value = ''
    try {
      await work()
      return true
    } catch (error) {
      problem.value = wordsOf(error)
      return false
    } finally {
      busy.value = ''
    }
  }
  return { busy, problem, run }
}
