<script setup lang="ts">
/** Whether the server has seen a player of this id, by the list it keeps; says nothing where it keeps none. */
const props = defineProps<{ id: string }>()
const known = useKnownStore()
const list = computed(() => known.known.registries['players'] ?? [])
const found = computed(() => list.value.find(({ id, name }) => id === props.id || name === props.id) ?? null)
</script>

<template>
  <span v-if="list.length > 0" class="muted"
    ><FindingMark :kind="found ? 'done' : 'warning'" />
    {{ found ? `seen here${found.name ? ` as ${found.name}` : ''}` : 'never seen here' }}</span
  >
</template>
