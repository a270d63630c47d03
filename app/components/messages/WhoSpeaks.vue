<script setup lang="ts">
/** In the place of a server’s plugins and files: those that speak to players, and the pictures and books they are shown. */
const messages = useMessagesStore()
const server = useServerStore()
const speakers = computed(() => {
  const counts = new Map<string, number>()
  for (const { plugin } of messages.all) counts.set(plugin, (counts.get(plugin) ?? 0) + 1)
  return (server.overview?.plugins ?? []).map(({ name, mine, update }) => ({
    name,
    yours: mine > 0,
    update: update !== null,
    count: counts.get(name) ?? 0,
    worst: worst(name),
  }))
})
const books = computed(() => messages.all.filter(({ book }) => book !== null))
const worst = (name: string): 'error' | 'warning' | null =>
  (['error', 'warning'] as const).find((kind) =>
    messages.all.some(({ plugin, findings }) => plugin === name && findings.some(({ severity }) => severity === kind)),
  ) ?? null
const plugin = computed({ get: () => messages.filter.plugin, set: (name) => (messages.filter = { ...messages.filter, plugin: name }) })
</script>

<template>
  <SpinePicks v-model="plugin" title="Who speaks" unit="texts" :picks="speakers" />
  <template v-if="books.length + messages.pictures.length > 0">
    <h2>Pictures and books</h2>
    <ul class="plugins">
      <li v-for="picture in messages.pictures" :key="messages.pictureId(picture)">
        <button
          :class="{ open: messages.focus === messages.pictureId(picture) }"
          :aria-pressed="messages.focus === messages.pictureId(picture)"
          @click="messages.focus = messages.pictureId(picture)"
        >
          <img v-if="picture.size" class="small" :src="messages.pictureAddress(picture)" alt="" /><FindingMark v-else kind="warning" />
          <code class="cut">{{ picture.name }}</code><span class="n">{{
            picture.size ? `${picture.size.width} × ${picture.size.height}` : 'not there'
          }}</span>
        </button>
      </li>
      <li v-for="book in books" :key="book.id">
        <button :class="{ open: messages.focus === book.id }" :aria-pressed="messages.focus === book.id" @click="messages.focus = book.id">
          <SurfaceSign surface="book" /> <code class="cut">{{ book.book!.name }}</code><span class="n">book</span>
        </button>
      </li>
    </ul>
  </template>
</template>

<style scoped>
.small {
  width: 18px;
  height: 18px;
  object-fit: cover;
}
</style>
