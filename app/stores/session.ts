import { defineStore } from 'pinia'

/** Who is signed in. */
export const useSessionStore = defineStore('session', () => {
  const me = ref<{ name: string; role: 'owner' | 'editor' | 'viewer' } | null>(null)
  const mayEdit = computed(() => me.value !== null && me.value.role !== 'viewer')

  async function load(): Promise<void> {
    me.value = await callApi('/api/me')
  }
  return { me, mayEdit, load }
})
