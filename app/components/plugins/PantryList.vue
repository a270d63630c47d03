<script setup lang="ts">
import { useConfirm } from 'primevue/useconfirm'
import type { PantryPackage } from '~/utils/types'

/** The packages that are kept, by plugin and version. */
const pantry = usePantryStore()
const server = useServerStore()
const session = useSessionStore()
const confirm = useConfirm()
function wordFor({ name, version }: PantryPackage): string {
  const there = pantry.versionOn(name)
  return there === version ? 'on the server' : there ? 'update' : 'install'
}
const choose = (item: PantryPackage): unknown => navigateTo(linkFor(item))
function linkFor({ id, name, version }: PantryPackage): string {
  const there = pantry.versionOn(name)
  if (there === version) return `/s/${server.slug}/plugins/${encodeURIComponent(name)}`
  return there ? `/s/${server.slug}/updates/${encodeURIComponent(name)}?package=${id}` : `/s/${server.slug}/plugins/install/${id}`
}
function askToRemove(event: MouseEvent, item: PantryPackage): void {
  confirm.require({
    target: event.currentTarget as HTMLElement,
    message: `Take ${item.name} ${item.version} out of the pantry?`,
    rejectLabel: 'Keep it',
    acceptLabel: 'Take it out',
    accept: () => void pantry.remove(item),
  })
}
</script>

<template>
  <div v-if="pantry.loading" class="skeleton" aria-busy="true"><i v-for="n in 4" :key="n" :style="{ width: `${80 - n * 9}%` }" /></div>
  <ul class="rows">
    <PackRow v-for="group in pantry.groups" :key="group.name" :name="group.name" :summary="group.versions.at(-1)?.summary">
      <VersionButton
        v-for="item in group.versions"
        :key="item.id"
        :plugin="item.name"
        :version="item.version"
        :word="wordFor(item)"
        @click="choose(item)"
      />
      <button
        v-if="session.mayEdit && group.versions.every(({ name }) => pantry.versionOn(name) === null)"
        class="act fine"
        :aria-label="`Take ${group.name} out of the pantry`"
        @click="askToRemove($event, group.versions.at(-1)!)"
      >
        take out
      </button>
    </PackRow>
  </ul>
</template>
