<script setup lang="ts">
/** Where one signs in by name and password; the demo's link opens a session by itself. */
const route = useRoute()
const name = ref('')
const password = ref('')
const problem = ref('')
const state = ref<'looking' | 'form' | 'empty'>('looking')
const busy = ref(false)

/** Where one came from; addresses of our own pages only. */
const next = computed(() => {
  const to = String(route.query['to'] ?? '/')
  return /^\/(?![/\\])/.test(to) ? to : '/'
})

async function enter(body: { key: string } | { name: string; password: string }): Promise<void> {
  busy.value = true
  problem.value = ''
  try {
    await callApi('/api/sign-in', { body })
    await navigateTo(next.value, { replace: true })
  } catch (error) {
    problem.value = wordsOf(error)
    state.value = 'form'
  } finally {
    busy.value = false
  }
}
onMounted(async () => {
  const key = route.query['key']
  if (typeof key === 'string' && key !== '') return enter({ key })
  try {
    const { isSetUp } = await callApi<{ isSetUp: boolean }>('/api/sign-in')
    state.value = isSetUp ? 'form' : 'empty'
  } catch (error) {
    problem.value = wordsOf(error)
    state.value = 'form'
  }
})
</script>

<template>
  <DoorPage v-if="state === 'looking'" title="Signing you in …"><BaseProgress label="Signing in" /></DoorPage>
  <DoorPage v-else-if="state === 'empty'" title="Nobody has an account here yet">
    <p>
      Pasticcio printed a link when it was started. It creates the owner, works once, and lasts a day. Open it in this browser. If it is
      lost, start Pasticcio again, and it prints another.
    </p>
  </DoorPage>
  <DoorPage v-else title="Sign in">
    <form @submit.prevent="enter({ name: name.trim(), password })">
      <FormLine label="Name" field="name">
        <InputText id="name" v-model="name" class="w4" autocomplete="username" autofocus />
      </FormLine>
      <FormLine label="Password" field="password">
        <InputText id="password" v-model="password" class="w4" type="password" autocomplete="current-password" />
      </FormLine>
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div class="acts">
        <button class="btn go" :disabled="busy || name.trim() === '' || password === ''">Sign in</button>
      </div>
      <p class="muted under">Forgot it? An owner can give you a link for a new one, under People.</p>
    </form>
  </DoorPage>
</template>

<style scoped>
.under {
  font: var(--t-fine);
}
</style>
