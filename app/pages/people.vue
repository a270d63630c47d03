<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import { useToast } from 'primevue/usetoast'
import type { Invitation, Person, Role } from '~/utils/types'

/** Who may work here, and who is invited. */
type OpenInvitation = Invitation & { readonly name: string | null }
const ROLES: readonly { readonly id: Role; readonly name: string }[] = [
  { id: 'viewer', name: 'viewer' },
  { id: 'editor', name: 'editor' },
  { id: 'owner', name: 'owner' },
]
const session = useSessionStore()
const confirm = useConfirm()
const toast = useToast()
const people = ref<Person[]>([])
const invitations = ref<OpenInvitation[]>([])
const loaded = ref(false)
const { problem, run } = useTask()
const role = ref<Role>('editor')
/** The link that was just made, and for whom; it is shown once. */
const made = ref<{ readonly link: string; readonly what: string } | null>(null)

async function load(): Promise<void> {
  const answer = await callApi<{ people: Person[]; invitations: OpenInvitation[] }>('/api/people')
  people.value = answer.people
  invitations.value = answer.invitations
  loaded.value = true
}
onMounted(() => run(load))

/** Does something, says that it is done, and shows the list as it then is, also after what could not be done. */
async function act(work: () => Promise<unknown>, done = ''): Promise<void> {
  const worked = await run(work)
  if (worked && done) toast.add({ severity: 'success', summary: done, life: 5000 })
  if (worked) await run(load)
  else await load().catch(() => undefined)
}
const personPath = (person: Person): string => `/api/people/${encodeURIComponent(person.name)}`
const invite = (): Promise<void> =>
  act(async () => {
    const { key } = await callApi<{ key: string }>('/api/people/invitations', { body: { role: role.value } })
    made.value = { link: `${window.location.origin}/join#${key}`, what: `Invitation for a new ${role.value}` }
  })
const newPassword = (person: Person): Promise<void> =>
  act(async () => {
    const { key } = await callApi<{ key: string }>(`${personPath(person)}/link`, { method: 'POST' })
    made.value = { link: `${window.location.origin}/join#${key}`, what: `New password for ${person.name}` }
  })
const setRole = (person: Person, next: Role): Promise<void> =>
  act(() => callApi(personPath(person), { method: 'PUT', body: { role: next } }), `${person.name} is ${next} now.`)
const signOut = (person: Person): Promise<void> =>
  act(() => callApi(`${personPath(person)}/sign-out`, { method: 'POST' }), `${person.name} is signed out everywhere.`)
const withdraw = (invitation: OpenInvitation): Promise<void> =>
  act(() => callApi(`/api/people/invitations/${invitation.id}`, { method: 'DELETE' }), 'The invitation is withdrawn.')
function askToRemove(event: MouseEvent, person: Person): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `Remove the account of ${person.name}? What ${person.name} did stays in the record.`,
    rejectLabel: 'Keep',
    acceptLabel: 'Remove',
    accept: () => void act(() => callApi(personPath(person), { method: 'DELETE' }), `${person.name} is removed.`),
  })
}
/** Browsers let pages copy only over HTTPS and from this machine. */
const canCopy = window.isSecureContext && 'clipboard' in navigator
async function copy(): Promise<void> {
  await navigator.clipboard.writeText(made.value!.link)
  toast.add({ severity: 'success', summary: 'The link is copied.', life: 3000 })
}
</script>

<template>
  <HouseFrame title="People" :note="loaded ? `${people.length} with an account` : ''">
    <div class="sheet-page wide">
      <Message v-if="problem" severity="error">{{ problem }}</Message>
      <div v-if="!loaded && !problem" class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
      <DataTable v-if="loaded" :value="people" data-key="id" aria-label="People">
        <Column field="name" header="Name" row-header>
          <template #body="{ data }"
            ><span class="b">{{ data.name }}</span></template
          >
        </Column>
        <Column header="Role">
          <template #body="{ data }">
            <Select
              :model-value="data.role"
              :options="[...ROLES]"
              option-label="name"
              option-value="id"
              :aria-label="`Role of ${data.name}`"
              @update:model-value="setRole(data, $event)"
            />
          </template>
        </Column>
        <Column header="Signs in">
          <template #body="{ data }">{{ data.hasPassword ? 'by password' : 'by the demo’s link' }}</template>
        </Column>
        <Column header="Last">
          <template #body="{ data }"
            ><time v-if="data.lastSignIn">{{ momentOf(data.lastSignIn) }}</time
            ><span v-else class="muted">not signed in</span></template
          >
        </Column>
        <Column header="Sessions">
          <template #body="{ data }">{{ data.sessions }}</template>
        </Column>
        <Column>
          <template #header><span class="sr">What can be done</span></template>
          <template #body="{ data }">
            <span class="row-acts">
              <button class="act" :aria-label="`New password for ${data.name}`" @click="newPassword(data)">New password</button>
              <button class="act" :aria-label="`Sign out ${data.name}`" :disabled="data.sessions === 0" @click="signOut(data)">
                Sign out
              </button>
              <button
                class="act"
                :aria-label="`Remove ${data.name}`"
                :disabled="data.name === session.me?.name"
                @click="askToRemove($event, data)"
              >
                Remove
              </button>
            </span>
          </template>
        </Column>
      </DataTable>

      <h2>Invite somebody</h2>
      <p class="muted">An invitation is a link that makes one account, once, within seven days. Hand it to the one it is for.</p>
      <form class="acts" @submit.prevent="invite">
        <BaseSegments v-model="role" :options="ROLES" label="Role of the new account" />
        <button class="btn">Make a link</button>
      </form>
      <div v-if="made" class="made" role="status">
        <p class="b">{{ made.what }}</p>
        <p class="link">
          <code>{{ made.link }}</code> <button v-if="canCopy" class="btn small" @click="copy">Copy</button>
        </p>
        <p class="muted">It is shown only now, and works once.</p>
      </div>
      <template v-if="invitations.length > 0">
        <h2>Open invitations</h2>
        <DataTable :value="invitations" data-key="id" aria-label="Open invitations">
          <Column header="For">
            <template #body="{ data }">{{ data.name ? `a new password for ${data.name}` : `a new ${data.role}` }}</template>
          </Column>
          <Column header="By">
            <template #body="{ data }">{{ data.invitedBy || 'the start of Pasticcio' }}</template>
          </Column>
          <Column header="Until">
            <template #body="{ data }">{{ momentOf(data.expiresAt) }}</template>
          </Column>
          <Column>
            <template #header><span class="sr">What can be done</span></template>
            <template #body="{ data }"><button class="act" @click="withdraw(data)">Withdraw</button></template>
          </Column>
        </DataTable>
      </template>
    </div>
  </HouseFrame>
</template>

<style scoped>
.row-acts {
  display: inline-flex;
  gap: 14px;
}
.made {
  border-left: 3px solid var(--running);
  padding: 4px 12px;
  font: var(--t-small);
}
.link {
  display: flex;
  gap: 12px;
  align-items: center;
}
.link code {
  font-size: 12px;
  overflow-wrap: anywhere;
}
</style>
