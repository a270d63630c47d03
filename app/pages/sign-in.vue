<script setup lang="ts">
/** Where one signs in by name and password; the demo's link opens a session by itself. */
const route = useRoute()
const { problem, run } = useTask()
const state = ref<'looking' | 'form' | 'empty'>('looking')

/** Where one came from; addresses of our own pages only. */
const next = computed(() => {
  const to = String(route.query['to'] ?? '/')
  return /^\/(?![/\\])/.test(to) ? to : '/'
})

async function goOn(): Promise<void> {
  await navigateTo(next.value, { replace: true })
}
async function enter(key: string): Promise<void> {
  if (await run(() => callApi('/api/sign-in', { body: { key } }))) await goOn()
  else state.value = 'form'
}
async function look(): Promise<void> {
  const { isSetUp } = await callApi<{ isSetUp: boolean }>('/api/sign-in')
  state.value = isSetUp ? 'form' : 'empty'
}
onMounted(async () => {
  const key = route.query['key']
  if (typeof key === 'string' && key !== '') return enter(key)
  if (!(await run(look))) state.value = 'form'
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
    <SignInForm @done="goOn" />
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <p class="muted under">Forgot it? An owner can give you a link for a new one, under People.</p>
  </DoorPage>
</template>

<style scoped>
.under {
  font: var(--t-fine);
}
</style>
