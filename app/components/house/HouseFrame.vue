<script setup lang="ts">
/** The frame of pages that belong to no single server: who works here, and which servers there are. */
defineProps<{ title: string; note?: string }>()
const slots = defineSlots<{ default(): unknown; actions?(): unknown; spine?(): unknown; margin?(): unknown; tray?(): unknown }>()
const session = useSessionStore()
const { problem, run } = useTask()
const route = useRoute()
useTheme()
const entries = computed(() => housePages(session.isOwner))
const load = (): Promise<boolean> => run(session.load)
onMounted(load)
</script>

<template>
  <div v-if="problem" class="state">
    <h1>Pasticcio</h1>
    <p role="alert">{{ problem }}</p>
    <div class="acts"><button class="btn" @click="load">Try again</button></div>
  </div>
  <div v-else-if="session.me" class="frame">
    <TopShell />
    <nav class="spine" aria-label="Pasticcio">
      <ul>
        <li v-for="entry in entries" :key="entry.to">
          <NuxtLink
            :to="entry.to"
            :class="{ on: route.path.startsWith(entry.to) }"
            :aria-current="route.path.startsWith(entry.to) ? 'page' : undefined"
            >{{ entry.title }}</NuxtLink
          >
        </li>
      </ul>
      <slot name="spine" />
    </nav>
    <main class="work" :class="{ page: slots.margin }">
      <div class="bench house">
        <div class="titleline">
          <div class="name">
            <h1>{{ title }}</h1>
            <span v-if="note" class="tally">{{ note }}</span>
          </div>
          <span class="push"><slot name="actions" /></span>
        </div>
        <div class="scroll"><slot /></div>
      </div>
      <slot name="margin" />
    </main>
    <footer v-if="slots.tray" class="house-tray"><slot name="tray" /></footer>
    <LazySignInAgain v-if="session.isLost" />
    <ConfirmPopup />
  </div>
  <div v-else class="skeleton" aria-busy="true"><BaseProgress label="Loading" /></div>
</template>

<style scoped>
.house-tray {
  grid-area: tray;
}
.bench.house {
  height: 100%;
}
</style>
