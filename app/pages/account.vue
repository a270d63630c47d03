<script setup lang="ts">
import { useToast } from 'primevue/usetoast'

/** One's own password, and signing out. */
const session = useSessionStore()
const toast = useToast()
const current = ref('')
const password = ref('')
const again = ref('')
const { problem, run } = useTask()
const ready = computed(() => password.value.length >= 10 && again.value === password.value)

async function change(): Promise<void> {
  await callApi('/api/me/password', { method: 'PUT', body: { current: current.value, password: password.value } })
  current.value = password.value = again.value = ''
  await session.load()
  toast.add({ severity: 'success', summary: 'The password is changed. Your other devices are signed out.', life: 6000 })
}
</script>

<template>
  <HouseFrame title="Your account" :note="session.me ? `${session.me.name}, ${session.me.role}` : ''">
    <div class="sheet-page">
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <h2>Password</h2>
      <p v-if="!session.me?.hasPassword" class="muted">You came in by the demo’s link. With a password you can also sign in by name.</p>
      <form @submit.prevent="run(change)">
        <FormLine v-if="session.me?.hasPassword" label="Present one" field="current">
          <InputText id="current" v-model="current" class="w4" type="password" autocomplete="current-password" />
        </FormLine>
        <FormLine label="New one" field="password" help="10 characters at least; a few words are good.">
          <InputText id="password" v-model="password" class="w4" type="password" autocomplete="new-password" />
        </FormLine>
        <FormLine label="Once more" field="again" :help="again !== '' && again !== password ? 'The two differ.' : undefined">
          <InputText id="again" v-model="again" class="w4" type="password" autocomplete="new-password" />
        </FormLine>
        <div class="acts"><button class="btn" :disabled="!ready">Change the password</button></div>
      </form>
      <h2>Signed in</h2>
      <p class="muted">A session lasts 30 days. Signing out everywhere ends all of yours at once, on this device too.</p>
      <div class="acts">
        <button class="btn" @click="run(() => session.signOut())">Sign out</button>
        <button class="btn" @click="run(() => session.signOut(true))">Sign out everywhere</button>
      </div>
    </div>
  </HouseFrame>
</template>
