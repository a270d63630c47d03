<script setup lang="ts">
import { shortPath } from '~/utils/pointer-words'
import { isCalledAfter, isSheet } from '~/utils/rule-files'
import type { RuleSheetFile } from '~/utils/types'

/** What people say the settings of a plugin are, as a file that can be kept, shared and taken in elsewhere. */
const props = defineProps<{ plugin: string }>()
const server = useServerStore()
const session = useSessionStore()
const { busy, problem, run } = useTask()
const field = useTemplateRef<HTMLInputElement>('field')
const sheet = shallowRef<RuleSheetFile | null>(null)
const told = ref('')
/** A description that was picked, and waits for somebody to say which file it describes. */
const picked = shallowRef<{ name: string; text: string } | null>(null)
const described = ref('')
const files = computed(() => server.overview?.plugins.find(({ name }) => name === props.plugin)?.files.map(({ path }) => path) ?? [])
const load = (): Promise<boolean> =>
  run(async () => {
    sheet.value = await callApi(`${server.base}/rules/sheet?plugin=${encodeURIComponent(props.plugin)}`)
  })
watch(() => props.plugin, load, { immediate: true })

function save(): void {
  if (!sheet.value) return
  const link = document.createElement('a')
  link.href = URL.createObjectURL(new Blob([sheet.value.text], { type: 'application/yaml' }))
  link.download = sheet.value.name
  link.click()
  URL.revokeObjectURL(link.href)
}
async function take(): Promise<void> {
  const file = field.value?.files?.[0]
  if (!file) return
  const text = await file.text()
  field.value!.value = ''
  if (!isSheet(text)) {
    picked.value = { name: file.name, text }
    described.value = files.value.find((path) => isCalledAfter(file.name, path)) ?? files.value[0] ?? ''
    return
  }
  await change('Taking the sheet in', async () => {
    const taken = await callApi<{ plugin: string; rules: number }>(`${server.base}/rules/sheet`, { method: 'PUT', body: { text } })
    return `${counted(taken.rules, 'rule')} for ${taken.plugin} taken in.`
  })
}
const attach = (): Promise<void> =>
  change('Attaching it', async () => {
    const body = { ...picked.value!, path: described.value }
    const { rules } = await callApi<{ rules: number }>(`${server.base}/rules/description`, { method: 'PUT', body })
    picked.value = null
    return `${body.name} describes ${counted(rules, 'setting')} of ${shortPath(body.path)}.`
  })
const detach = (path: string): Promise<void> =>
  change('Taking it away', async () => {
    await callApi(`${server.base}/rules/description?path=${encodeURIComponent(path)}`, { method: 'DELETE' })
    return `Nothing attached describes ${shortPath(path)} any more.`
  })
async function change(label: string, work: () => Promise<string>): Promise<void> {
  told.value = ''
  await run(async () => {
    told.value = await work()
    await server.refresh()
  }, label)
  if (told.value) await load()
}
</script>

<template>
  <div class="h">Rules of yours</div>
  <p class="muted fine">
    {{
      sheet?.rules
        ? `${counted(sheet.rules, 'setting')} said by hand.`
        : 'Nothing was said by hand yet: do so beside a setting, or take a sheet or a JSON Schema in.'
    }}
  </p>
  <ul v-if="sheet?.descriptions.length" class="fine attached" aria-label="Attached descriptions">
    <li v-for="one in sheet.descriptions" :key="one.path">
      <span class="cut" :title="`${one.name}, attached by ${one.by}`">{{ shortPath(one.path) }} is described by {{ one.name }}</span
      ><button v-if="session.mayEdit" class="act push" :aria-label="`Take ${one.name} away`" @click="detach(one.path)">take away</button>
    </li>
  </ul>
  <form v-if="picked" class="fine picked" @submit.prevent="attach">
    <label for="described">{{ picked.name }} describes</label>
    <select id="described" v-model="described" class="in">
      <option v-for="path in files" :key="path" :value="path">{{ shortPath(path) }}</option>
    </select>
    <div class="acts">
      <button class="btn small" type="submit" :disabled="busy !== '' || described === ''">Attach it</button>
      <button class="act" type="button" @click="picked = null">never mind</button>
    </div>
  </form>
  <p v-if="told" class="fine" role="status">{{ told }}</p>
  <Message v-if="problem" severity="error">{{ problem }}</Message>
  <div class="acts">
    <button class="btn" :disabled="!sheet?.rules" @click="save">Save as a sheet</button>
    <button class="btn quiet" :disabled="!session.mayEdit || busy !== ''" @click="field?.click()">Take one in …</button>
    <input
      ref="field"
      class="sr"
      type="file"
      accept=".yml,.yaml,.json"
      tabindex="-1"
      aria-label="A rule sheet or JSON Schema"
      @change="take"
    />
  </div>
</template>

<style scoped>
.fine {
  font: var(--t-fine);
}
.attached {
  list-style: none;
  padding: 0;
  margin: 4px 0;
}
.attached li {
  display: flex;
  gap: 8px;
}
.picked {
  display: grid;
  gap: 4px;
  margin: 6px 0;
}
</style>
