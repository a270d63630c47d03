<script setup lang="ts">
import type { Invited } from '~/utils/types'

/** Where an invitation leads: one chooses a name and a password, once. The key stands after the #, which no log sees. */
const offer = ref<Invited | null>(null)
const { busy, problem, run } = useTask()
const gone = ref(false)
const name = ref('')
const password = ref('')
const again = ref('')
const key = window.location.hash.slice(1)

const title = computed(() => {
  if (!offer.value) return 'An invitation'
  if (offer.value.name) return `A new password for ${offer.value.name}`
  return offer.value.invitedBy === '' ? 'Create the owner' : `${offer.value.invitedBy} invites you as ${offer.value.role}`
})
const differ = computed(() => again.value !== '' && again.value !== password.value)
const ready = computed(
  () => (offer.value?.name || name.value.trim() !== '') && password.value.length >= 10 && again.value === password.value,
)

async function look(): Promise<void> {
  offer.value = await callApi<Invited>('/api/invitations/look', { body: { key } })
}
onMounted(async () => (gone.value = !(await run(look))))

async function join(): Promise<void> {
  await callApi('/api/invitations/accept', { body: { key, name: name.value.trim(), password: password.value } })
  await navigateTo('/', { replace: true })
}
</script>

<template>
  <DoorPage :title="gone ? 'This link does not work' : title">
    <Message v-if="gone" severity="error">{{ problem }}</Message>
    <BaseProgress v-else-if="!offer" label="Looking up the invitation" />
    <form v-else @submit.prevent="run(join)">
      <p class="muted">
        {{
          offer.name
            ? 'All devices where this account is signed in are signed out.'
            : offer.role === 'owner'
              ? 'An owner may do everything: add servers, invite people, change settings.'
              : offer.role === 'editor'
                ? 'An editor changes settings, installs and updates plugins.'
                : 'A viewer may look at everything and change nothing.'
        }}
      </p>
      <FormLine v-if="!offer.name" label="Name" field="name">
        <InputText id="name" v-model="name" class="w4" autocomplete="username" autofocus maxlength="40" />
      </FormLine>
      <FormLine label="Password" field="password" help="10 characters at least; a few words are good.">
        <InputText
          id="password"
          v-model="password"
          class="w4"
          type="password"
          autocomplete="new-password"
          aria-describedby="password-help"
        />
      </FormLine>
      <FormLine label="Once more" field="again" :help="differ ? 'The two differ.' : undefined">
        <InputText id="again" v-model="again" class="w4" type="password" autocomplete="new-password" :invalid="differ" />
      </FormLine>
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div class="acts">
        <button class="btn go" :disabled="busy !== '' || !ready">{{ offer.name ? 'Set the password' : 'Create the account' }}</button>
      </div>
    </form>
  </DoorPage>
</template>
