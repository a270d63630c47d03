<script setup lang="ts">
import { STATIONS, encodePath, stationAddress, stationAt } from '~/stations'
import type { PluginSummary } from '~/utils/types'

/** The stations of the work in their order, then this server's plugins and files. */
const props = defineProps<{ folded: boolean }>()
defineEmits<{ fold: []; keys: [] }>()
const route = useRoute()
const server = useServerStore()
const home = computed(() => `/s/${server.slug}`)
const plugins = computed(() => server.overview?.plugins ?? [])
const here = computed(() => stationAt(route.path, home.value)?.id ?? '')
const inUpdates = computed(() => here.value === 'updates')
const stations = computed(() =>
  STATIONS.map((station) => ({
    id: station.id,
    title: station.title,
    to: stationAddress(station, home.value, server.overview),
    badge: station.badge?.(server.overview) ?? null,
  })),
)
const openPlugin = computed(() => plugins.value.find((item) => item.files.some((file) => route.path === fileLink(file.path)))?.name ?? null)

function fileLink(path: string): string {
  return `${home.value}/settings/${encodePath(path)}`
}
function pluginLink(plugin: PluginSummary): string {
  if (inUpdates.value) return plugin.update ? `${home.value}/updates/${plugin.name}` : `${home.value}/updates`
  const first = plugin.files.find((file) => !file.record)
  return first ? fileLink(first.path) : `${home.value}/settings?plugin=${encodeURIComponent(plugin.name)}`
}
const errorsOf = (plugin: PluginSummary): number => plugin.files.reduce((sum, file) => sum + file.errors, 0)
const warningsOf = (plugin: PluginSummary): number => plugin.files.reduce((sum, file) => sum + file.warnings, 0)
</script>

<template>
  <nav class="spine" :aria-label="`Work on ${server.slug}`">
    <template v-if="!props.folded">
      <ul>
        <li v-for="station in stations" :key="station.id">
          <NuxtLink
            class="st"
            :to="station.to"
            :class="{ on: here === station.id }"
            :aria-current="here === station.id ? 'page' : undefined"
          >
            {{ station.title
            }}<span v-if="station.badge" class="n"
              ><i v-if="station.badge.update" class="bar u" /><template v-if="station.badge.errors"
                ><FindingMark kind="error" /><b>{{ station.badge.errors }}</b></template
              ><template v-if="station.badge.warnings"><FindingMark kind="warning" />{{ station.badge.warnings }}</template
              >{{ station.badge.text }}</span
            >
          </NuxtLink>
        </li>
      </ul>
      <LazyWhoSpeaks v-if="here === 'messages'" />
      <LazyWhatMayBeDone v-else-if="here === 'permissions'" />
      <LazyWhereMoneyMoves v-else-if="here === 'economy'" />
      <template v-else-if="plugins.length > 0">
        <h2>
          {{ inUpdates ? 'Plugins and updates' : 'On this server' }}<span>{{ inUpdates ? '' : 'yours' }}</span>
        </h2>
        <ul class="plugins">
          <li v-for="plugin in plugins" :key="plugin.name">
            <NuxtLink
              :to="pluginLink(plugin)"
              :class="{ open: openPlugin === plugin.name, on: inUpdates && route.params['plugin'] === plugin.name }"
            >
              <LayerMark factory :yours="plugin.mine > 0" :update="plugin.update !== null" /> <span class="cut">{{ plugin.name }}</span>
              <span class="n"
                ><FindingMark v-if="errorsOf(plugin) > 0" kind="error" /><FindingMark v-if="warningsOf(plugin) > 0" kind="warning" />{{
                  inUpdates ? (plugin.update?.to ?? plugin.version) : plugin.mine || ''
                }}</span
              >
            </NuxtLink>
            <ul v-if="openPlugin === plugin.name && !inUpdates">
              <li v-for="file in plugin.files" :key="file.path">
                <SpineFile :file="file" :to="fileLink(file.path)" :open="route.path === fileLink(file.path)" />
              </li>
            </ul>
          </li>
        </ul>
      </template>
    </template>
    <div class="foot">
      <button :aria-label="folded ? 'Unfold' : undefined" @click="$emit('fold')">
        <BaseIcon :name="folded ? 'unfold' : 'fold'" /><template v-if="!folded"> Fold</template>
      </button>
      <button v-if="!folded" class="push" @click="$emit('keys')">all keys <kbd>?</kbd></button>
    </div>
  </nav>
</template>

<style scoped>
.st {
  font: var(--t-body);
}
.foot {
  margin-top: auto;
  min-height: 32px;
  border-top: 1px solid var(--hairline);
  padding: 0 12px;
  display: flex;
  align-items: center;
  gap: 6px;
  color: var(--muted);
  font: var(--t-fine);
}
</style>
