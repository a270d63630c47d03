import { defineStore } from 'pinia'
import type { Role } from '~/utils/types'

/** Who is signed in. */
export const useSessionStore = defineStore('session', () => {
  const me = ref<{ name: string; role: Role; hasPassword: boolean } | null>(null)
  const mayEdit = computed(() => me.value !== null && me.value.role !== 'viewer')
  const isOwner = computed(() => me.value?.role === 'owner')

  async function load(): Promise<void> {
    me.value = await callApi('/api/me')
  }

  /** Whether the session ended while somebody was at work. */
  const isLost = ref(false)

  /** Goes on after somebody signed in again. @throws ApiProblem while they did not */
  async function resume(): Promise<void> {
    await load()
    isLost.value = false
  }

  /** Signs out here, or wherever this account is signed in. */
  async function signOut(everywhere = false): Promise<void> {
    const was = me.value
    // what is still under way is not to ask for signing in again
    me.value = null
    try {
      await callApi('/api/sign-out', { body: { everywhere } })
    } catch (error) {
      me.value = was
      throw error
    }
    await navigateTo('/sign-in')
  }
  return { me, mayEdit, isOwner, isLost, load, resume, signOut }
})
