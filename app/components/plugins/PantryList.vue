<script setup lang="ts">
/** The packages that are kept, by plugin and version. */
const pantry = usePantryStore()
</script>

<template>
  <div v-if="pantry.loading" class="skeleton" aria-busy="true"><i v-for="n in 4" :key="n" :style="{ width: `${80 - n * 9}%` }" /></div>
  <ul class="rows">
    <li v-for="group in pantry.groups" :key="group.name" class="pack">
      <span class="b cut">{{ group.name }}</span><span class="muted cut">{{ group.versions.at(-1)?.summary }}</span>
      <span class="versions">
        <button
          v-for="item in group.versions"
          :key="item.id"
          class="tokbtn"
          :aria-label="`${item.name} ${item.version}`"
          :aria-pressed="pantry.chosen?.id === item.id"
          @click="pantry.choose(item)"
        >
          <code>{{ item.version }}</code><span class="fine">{{
            pantry.versionOn(item.name) === item.version ? 'on the server' : pantry.versionOn(item.name) ? 'update' : 'install'
          }}</span>
        </button>
      </span>
    </li>
  </ul>
</template>

<style scoped>
.pack {
  display: grid;
  align-items: center;
  gap: 10px;
  min-height: 32px;
  padding: 0 12px 0 16px;
}
.pack {
  grid-template-columns: 138px minmax(0, 1fr) auto;
}
.fine {
  font: var(--t-fine);
}
.versions {
  display: flex;
  gap: 8px;
}
.tokbtn {
  display: inline-flex;
  gap: 6px;
  align-items: baseline;
  padding: 2px 8px;
  border: 1px solid var(--field-rule);
  border-radius: 3px;
}
.tokbtn:hover:not(:disabled) {
  background: var(--semolina);
}
.tokbtn[aria-pressed='true'] {
  background: var(--crust);
  color: var(--flour);
}
.tokbtn code {
  font-size: 12px;
}
</style>
