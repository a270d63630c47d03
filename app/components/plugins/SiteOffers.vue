<script setup lang="ts">
/** What the plugin sites offer beyond the pantry. */
const pantry = usePantryStore()
const session = useSessionStore()
</script>

<template>
  <template v-if="pantry.fresh.length > 0">
    <div class="grp">
      <h2>At the plugin site</h2>
      <span class="ct">{{ pantry.fresh.length }}</span>
    </div>
    <ul class="rows">
      <li v-for="offer in pantry.fresh" :key="offer.link" class="pack">
        <span class="b cut">{{ offer.name }}</span><span class="muted cut">{{ offer.summary }}</span>
        <span class="versions"
          ><button
            class="tokbtn"
            :aria-label="`Put ${offer.name} ${offer.version} into the pantry`"
            :disabled="!session.mayEdit || pantry.working !== ''"
            @click="pantry.fetchLink(offer.link, `${offer.name} ${offer.version}`)"
          >
            <code>{{ offer.version }}</code><span class="fine">to the pantry</span>
          </button></span
        >
      </li>
    </ul>
  </template>
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
