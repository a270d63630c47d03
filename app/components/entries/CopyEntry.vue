<script setup lang="ts">
import type { CopiedTo, GroupFound, Overview, ServerSummary } from '~/utils/types'

/** Copies an entry into another file, of this server or another one, and says first what does not fit there. */
const entries = useEntriesStore()
const server = useServerStore()
const servers = ref<readonly ServerSummary[]>([])
const slug = ref(server.slug)
const overview = shallowRef<Overview | null>(null)
const path = ref('')
const groups = shallowRef<readonly GroupFound[] | null>(null)
const group = ref<string | null>(null)
const name = ref(entries.asked?.name ?? '')
const trial = shallowRef<CopiedTo | null>(null)
const done = shallowRef<CopiedTo | null>(null)
const problem = ref('')

const files = computed(() =>
  (overview.value?.plugins ?? []).map((plugin) => ({
    label: plugin.name,
    items: plugin.files.map((file) => ({ path: file.path, label: shortPath(file.path) })),
  })),
)
const kinds = computed(() =>
  (groups.value ?? []).map((one) => ({
    ...one,
    label: `${pointerWords(one.pointer, 'the whole file')}, ${one.size === 0 ? 'empty' : counted(one.size, 'entry', 'entries')}`,
  })),
)
const isNamed = computed(() => groups.value?.find(({ pointer }) => pointer === group.value)?.kind !== 'list')
const guarded = async (work: () => Promise<void>): Promise<void> => {
  problem.value = ''
  await work().catch((error: unknown) => (problem.value = wordsOf(error)))
}

void guarded(async () => {
  servers.value = await callApi<ServerSummary[]>('/api/servers')
})
watch(
  slug,
  (at) =>
    guarded(async () => {
      path.value = ''
      groups.value = null
      overview.value = at === server.slug ? server.overview : await callApi<Overview>(`/api/servers/${at}/overview`)
    }),
  { immediate: true },
)
watch(path, (at) =>
  guarded(async () => {
    groups.value = group.value = null
    if (at === '') return
    groups.value = await entries.groupsOf(slug.value, at)
    const like = entries.asked!.pointer.split('/').at(-2)
    group.value = (groups.value.find(({ pointer }) => pointer.split('/').at(-1) === like) ?? groups.value[0])?.pointer ?? null
  }),
)
const target = computed(() =>
  path.value === '' || group.value === null ? null : { server: slug.value, path: path.value, group: group.value, name: name.value.trim() },
)
watchDebounced(
  target,
  (at) =>
    guarded(async () => {
      trial.value = null
      if (at) trial.value = await entries.copyTo(at, true)
    }),
  { debounce: 200 },
)
const copy = (): Promise<void> =>
  guarded(async () => {
    if (target.value) done.value = await entries.copyTo(target.value, false)
  })
</script>

<template>
  <div v-if="done">
    <p role="status">
      It is in the tray{{ slug === server.slug ? '' : ` of ${slug}` }}.
      <NuxtLink :to="{ path: `/s/${slug}/settings/${done.path}`, query: { at: done.pointer } }" @click="entries.asked = null"
        >Look at it there</NuxtLink
      >
    </p>
    <div class="acts"><button class="btn" autofocus @click="entries.asked = null">Close</button></div>
  </div>
  <form v-else @submit.prevent="copy">
    <FormLine v-if="servers.length > 1" label="Server" field="copy-server">
      <Select
        v-model="slug"
        input-id="copy-server"
        class="w4"
        :options="[...servers]"
        option-label="slug"
        option-value="slug"
        aria-label="Server"
      />
    </FormLine>
    <FormLine label="File" field="copy-file">
      <Select
        v-model="path"
        input-id="copy-file"
        class="w4"
        filter
        :options="files"
        option-label="label"
        option-value="path"
        option-group-label="label"
        option-group-children="items"
        placeholder="one of a plugin’s files"
        aria-label="File"
      />
    </FormLine>
    <FormLine v-if="groups" label="Into" field="copy-group">
      <Select
        v-if="groups.length > 0"
        v-model="group"
        input-id="copy-group"
        class="w4"
        :options="kinds"
        option-label="label"
        option-value="pointer"
        aria-label="Into"
      />
      <span v-else class="muted">This file has no section or list of entries.</span>
    </FormLine>
    <FormLine v-if="isNamed" label="Name there" field="copy-name"><input id="copy-name" v-model="name" class="in w4" /></FormLine>
    <section v-if="trial">
      <p v-if="trial.misfits.length === 0" class="muted" role="status">All of it fits.</p>
      <template v-else>
        <h3>{{ counted(trial.misfits.length, 'thing') }} to look at there</h3>
        <ul tabindex="0" aria-label="What does not fit">
          <li v-for="misfit in trial.misfits" :key="misfit.what + misfit.setting">
            <FindingMark kind="warning" /><code>{{ pointerWords(misfit.setting, 'the entry') }}</code>
            <span class="muted">{{ misfit.says }}</span>
          </li>
        </ul>
      </template>
    </section>
    <p v-if="problem" class="err" role="alert"><FindingMark kind="error" /> {{ problem }}</p>
    <div class="acts">
      <button class="btn go" :disabled="!trial">Copy it</button>
      <button type="button" class="btn quiet" @click="entries.asked = null">Never mind</button>
    </div>
  </form>
</template>

<style scoped>
h3 {
  font: italic 400 13px/20px var(--serif);
  margin-top: 8px;
}
ul {
  max-height: 180px;
  overflow: auto;
}
li {
  display: flex;
  gap: 8px;
  line-height: 22px;
  align-items: baseline;
  font: var(--t-small);
}
</style>
