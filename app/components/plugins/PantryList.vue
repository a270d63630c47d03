<script setup lang="ts">
import type { PantryPackage } from '~/utils/types'

/** The packages that are kept, by plugin and version. */
const pantry = usePantryStore()
function wordFor({ name, version }: PantryPackage): string {
  const there = pantry.versionOn(name)
  return there === version ? 'on the server' : there ? 'update' : 'install'
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
        :aria-pressed="pantry.chosen?.id === item.id"
        @click="pantry.choose(item)"
      />
    </PackRow>
  </ul>
</template>
