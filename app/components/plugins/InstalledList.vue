<script setup lang="ts">
import type { PluginSummary } from '~/utils/types'

/** The plugins on the server, with what is yours in them, what is wrong, and what waits. */
const pantry = usePantryStore()
const server = useServerStore()
const foundIn = ({ files }: PluginSummary, severity: 'errors' | 'warnings'): number => files.reduce((sum, file) => sum + file[severity], 0)
</script>

<template>
  <ul class="rows">
    <li v-for="item in pantry.installed" :key="item.name" class="plug">
      <LayerMark factory :yours="item.mine > 0" :update="item.update !== null" />
      <NuxtLink :to="`/s/${server.slug}/plugins/${encodeURIComponent(item.name)}`" class="b cut">{{ item.name }}</NuxtLink><code>{{
        item.version
      }}</code
      ><span class="muted cut">{{ item.summary }}</span>
      <span class="fine"
        ><span v-if="item.isOff" class="wrn">switched off</span><span v-else-if="item.run?.state === 'failed'" class="err">failed</span
        ><span v-else-if="item.run?.state === 'silent'" class="wrn">silent</span
        ><template v-else-if="item.mine > 0"><i class="bar y" /> {{ item.mine }} yours</template
        ><span v-else class="muted">as shipped</span></span
      >
      <span class="fine found"
        ><template v-if="foundIn(item, 'errors') > 0"><FindingMark kind="error" /> {{ foundIn(item, 'errors') }}</template
        ><template v-if="foundIn(item, 'warnings') > 0"><FindingMark kind="warning" /> {{ foundIn(item, 'warnings') }}</template></span
      >
      <NuxtLink v-if="item.update" class="upd fine" :to="`/s/${server.slug}/updates/${item.name}`"
        ><i class="bar u" /> {{ item.update.to }} in the pantry</NuxtLink
      ><span v-else />
      <PluginRunNote v-if="item.run" :run="item.run" class="plug-problem" />
      <p v-for="problem in item.problems" :key="problem" class="plug-problem problem fine">{{ problem }}</p>
    </li>
  </ul>
  <p v-if="pantry.installed.length === 0 && server.overview" class="state">
    There is no plugin on this server yet. Take one from the pantry below.
  </p>
</template>

<style scoped>
.plug {
  display: grid;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
}
.plug {
  grid-template-columns: 18px 110px 50px minmax(0, 1fr) 70px 48px 124px;
}
/* under the plugin it is about */
.plug-problem {
  grid-column: 2 / -1;
  padding-bottom: 6px;
}
.found {
  display: inline-flex;
  align-items: center;
  gap: 4px;
}
.fine {
  font: var(--t-fine);
}
</style>
