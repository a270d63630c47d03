<script setup lang="ts">
import { CAUSES, type FindingCode } from '@pasticcio/core'

/** Errors that hold the tray; each kind is let through by its own name, with a reason, which the record keeps. */
const tray = useTrayStore()
const server = useServerStore()
const session = useSessionStore()
const asked = ref('')
const name = ref('')
const reason = ref('')
const title = (code: string): string => CAUSES[code as FindingCode]?.title ?? code
function ask(code: string): void {
  asked.value = asked.value === code ? '' : code
  name.value = reason.value = ''
}
function overrule(): void {
  if (name.value.trim() !== asked.value || reason.value.trim() === '') return
  tray.overruled = { ...tray.overruled, [asked.value]: reason.value.trim() }
  asked.value = ''
}
</script>

<template>
  <section class="held" aria-label="Errors that hold the tray">
    <p class="problem">
      Errors hold this back. <NuxtLink :to="`/s/${server.slug}/findings`">Mend them under Findings</NuxtLink>, or let them through by name.
    </p>
    <ul>
      <li v-for="one in tray.held" :key="one.code">
        <FindingMark :kind="tray.overruled[one.code] ? 'done' : 'error'" />
        <span
          >{{ title(one.code) }} <span class="muted">{{ one.count }}</span></span
        >
        <span v-if="tray.overruled[one.code]" class="muted push">let through: {{ tray.overruled[one.code] }}</span>
        <button v-else class="act push" :disabled="!session.mayEdit" :aria-expanded="asked === one.code" @click="ask(one.code)">
          Overrule …
        </button>
        <form v-if="asked === one.code" @submit.prevent="overrule">
          <label :for="`name-${one.code}`"
            >Its name, which is <code>{{ one.code }}</code></label
          >
          <input :id="`name-${one.code}`" v-model="name" class="in" autocomplete="off" />
          <label :for="`why-${one.code}`">Why it may be written</label>
          <input :id="`why-${one.code}`" v-model="reason" class="in" maxlength="500" />
          <button class="btn" :disabled="name.trim() !== one.code || reason.trim() === ''">Let it through</button>
        </form>
      </li>
    </ul>
  </section>
</template>

<style scoped>
li {
  display: flex;
  flex-wrap: wrap;
  gap: 6px 8px;
  align-items: center;
  min-height: 24px;
  font: var(--t-small);
  border-bottom: 1px solid var(--hairline);
}
form {
  flex-basis: 100%;
  display: grid;
  gap: 4px;
  padding: 4px 0 10px;
  font: var(--t-fine);
}
.btn {
  margin-top: 4px;
}
</style>
