<script setup lang="ts">
/** What belongs to the plan: other builds, what works together with it, and what the author says. */
const install = useInstallStore()
const server = useServerStore()
const main = computed(() => install.main!)
const isUnpacked = computed(
  () =>
    main.value.home.endsWith(`/${main.value.folder}`) &&
    main.value.parts.some(({ kind, actions }) => kind === 'package' && actions.length > 1),
)
const linkOf = (id: number | string): string => `/s/${server.slug}/plugins/install/${id}`
</script>

<template>
  <section v-if="isUnpacked" class="note">
    <h3 class="first">The folder’s name</h3>
    <dl class="facts">
      <dt>folder</dt>
      <dd>
        <code>{{ main.home }}/</code>
      </dd>
      <template v-for="part in main.parts.filter(({ kind }) => kind === 'register')" :key="part.path">
        <dt>known by</dt>
        <dd>
          <code>{{ part.path }}</code>
        </dd>
      </template>
    </dl>
    <p class="muted fine">Everything above is changed together with it. Short is good: consoles and other plugins call it so.</p>
  </section>
  <template v-if="main.builds.length > 0">
    <div class="h">Builds <span class="push">newest that fits first</span></div>
    <ul class="builds">
      <li v-for="build in main.builds" :key="build.id" :class="{ on: build.version === main.version }">
        <NuxtLink v-if="typeof build.id === 'number' && build.version !== main.version" :to="linkOf(build.id)" class="b">{{
          build.version
        }}</NuxtLink><span v-else class="b">{{ build.version }}</span>
        <span class="muted"
          >{{ build.why || `for game ${build.game}` }}{{ typeof build.id === 'string' ? ', at the plugin site' : '' }}</span
        >
        <FindingMark :kind="build.why ? 'warning' : 'done'" />
      </li>
    </ul>
  </template>
  <template v-if="main.hooks.length > 0">
    <div class="h">Adds, if it is there</div>
    <dl class="facts">
      <template v-for="hook in main.hooks" :key="hook.name">
        <dt>{{ hook.name }}</dt>
        <dd>
          {{ hook.adds || 'works together with it' }} <span class="muted">{{ hook.isThere ? '' : 'not on this server' }}</span><FindingMark
            v-if="hook.isThere"
            kind="done"
          />
        </dd>
      </template>
    </dl>
  </template>
  <ol class="footnotes">
    <li>
      <BaseIcon name="back" /><span
        >One step in History. Going back takes out files, lines and entries, and keeps what you changed as what was before.</span
      >
    </li>
  </ol>
</template>

<style scoped>
.first {
  padding-top: 8px;
}
.fine {
  font: var(--t-fine);
}
.builds li {
  display: grid;
  grid-template-columns: 60px 1fr 14px;
  gap: 8px;
  padding: 5px 0;
  border-bottom: 1px solid var(--hairline);
  font: var(--t-fine);
}
.builds .on {
  background: var(--wash-yours);
  margin: 0 -8px;
  padding: 5px 8px;
}
</style>
