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

  /** Signs out here, or wherever this account is signed in. */
  async function signOut(everywhere = false): Promise<void> {
    await callApi('/api/sign-out', { body: { everywhere } })
    me.value = null
    await navigateTo('/sign-in')
  }
  return { me, mayEdit, isOwner, load, signOut }
})
