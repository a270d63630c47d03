<script setup lang="ts">
/** What is on the server, the pantry of packages, and what came in just now. */
const server = useServerStore()
const pantry = usePantryStore()
const dragging = ref(false)
onMounted(() => {
  pantry.reset()
  void pantry.load()
})
async function drop(event: DragEvent): Promise<void> {
  dragging.value = false
  await pantry.upload([...(event.dataTransfer?.files ?? [])])
}
</script>

<template>
  <div class="page" @dragover.prevent="dragging = true" @dragleave.self="dragging = false" @drop.prevent="drop">
    <section class="bench">
      <div class="titleline">
        <div class="name">
          <h1>Plugins</h1>
          <span class="tally">game {{ server.overview?.game }}, {{ pantry.installed.length }} on {{ server.slug }}</span>
        </div>
      </div>
      <div class="scroll">
        <Message v-if="pantry.problem" severity="error">{{ pantry.problem }}</Message>
        <div class="grp">
          <h2>On this server</h2>
          <span class="ct">{{ pantry.installed.length }}</span><span class="r">yours, findings, updates</span>
        </div>
        <InstalledList />
        <div class="grp">
          <h2>Pantry</h2>
          <span class="ct">{{ counted(pantry.packages.length, 'package') }}</span><span class="r">kept for installing</span>
        </div>
        <PantryList />
        <AddPackage :dragging="dragging" />
        <SiteOffers />
        <PlacesList />
      </div>
    </section>
    <aside class="margin" aria-label="What came in">
      <div class="titleline side">
        <h2>In the margin</h2>
      </div>
      <div class="body">
        <BaseProgress v-if="pantry.working" :label="pantry.working" :done="pantry.download?.bytes" :of="pantry.download?.size" />
        <p v-if="pantry.working" class="under">
          {{ pantry.working }}
          <template v-if="pantry.download"
            >{{ bytesOf(pantry.download.bytes) }}{{ pantry.download.size ? ` of ${bytesOf(pantry.download.size)}` : '' }}
            <button class="act" @click="pantry.cancel">cancel</button></template
          >
        </p>
        <AddedNote v-if="pantry.added.length > 0" />
        <p v-else-if="!pantry.working" class="comment muted">
          Choose a version in the pantry to see where its files would go, what it needs, and whether it fits the game, before anything is
          done.
        </p>
      </div>
    </aside>
  </div>
</template>

<style scoped>
.under {
  font: var(--t-fine);
  color: var(--muted);
  padding: 6px 0;
}
</style>
