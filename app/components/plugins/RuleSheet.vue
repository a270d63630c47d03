<script setup lang="ts">
/** What people say the settings of a plugin are, as a file that can be kept, shared and taken in elsewhere. */
const props = defineProps<{ plugin: string }>()
const server = useServerStore()
const session = useSessionStore()
const { busy, problem, run } = useTask()
const field = useTemplateRef<HTMLInputElement>('field')
const sheet = shallowRef<{ name: string; text: string; rules: number } | null>(null)
const told = ref('')
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
  told.value = ''
  await run(async () => {
    const taken = await callApi<{ plugin: string; rules: number }>(`${server.base}/rules/sheet`, {
      method: 'PUT',
      body: { text: await file.text() },
    })
    told.value = `${counted(taken.rules, 'rule')} for ${taken.plugin} taken in.`
    await server.refresh()
  }, 'Taking the sheet in')
  field.value!.value = ''
  if (told.value) await load()
}
</script>

<template>
  <div class="h">Rules of yours</div>
  <p class="muted fine">
    {{
      sheet?.rules
        ? `${counted(sheet.rules, 'setting')} said by hand.`
        : 'Nothing was said by hand yet: do so beside a setting, or take a sheet in.'
    }}
  </p>
  <p v-if="told" class="fine" role="status">{{ told }}</p>
  <Message v-if="problem" severity="error">{{ problem }}</Message>
  <div class="acts">
    <button class="btn" :disabled="!sheet?.rules" @click="save">Save as a sheet</button>
    <button class="btn quiet" :disabled="!session.mayEdit || busy !== ''" @click="field?.click()">Take a sheet in …</button>
    <input ref="field" class="sr" type="file" accept=".yml,.yaml" tabindex="-1" aria-label="A rule sheet" @change="take" />
  </div>
</template>

<style scoped>
.fine {
  font: var(--t-fine);
}
</style>
