<script setup lang="ts">
/** A package from a file or a link. Files may be dropped anywhere on the page, which says so here. */
defineProps<{ dragging: boolean }>()
const pantry = usePantryStore()
const session = useSessionStore()
const link = ref('')
const picker = useTemplateRef<HTMLInputElement>('picker')
async function addLink(): Promise<void> {
  if (await pantry.fetchLink(link.value.trim())) link.value = ''
}
</script>

<template>
  <div class="drop" :class="{ dragging }">
    <span class="b">Add to the pantry</span>
    <span
      >Drop a package, <button class="act" :disabled="!session.mayEdit" @click="picker?.click()">choose a file</button>, or paste a
      link:</span
    >
    <form @submit.prevent="addLink">
      <InputText v-model="link" class="w4" placeholder="link" aria-label="Link to a package" :disabled="!session.mayEdit" />
      <button class="btn small" :disabled="link.trim() === '' || !session.mayEdit">Fetch</button>
    </form>
    <input
      ref="picker"
      type="file"
      class="sr"
      multiple
      aria-label="Package file"
      @change="pantry.upload([...(($event.target as HTMLInputElement).files ?? [])])"
    />
  </div>
</template>

<style scoped>
.drop {
  margin: 12px 16px;
  padding: 10px 14px;
  border: 1px dashed var(--field-rule);
  border-radius: var(--radius);
  display: flex;
  gap: 14px;
  align-items: center;
  font: var(--t-small);
  flex-wrap: wrap;
}
.drop.dragging {
  background: var(--wash-yours);
  border-style: solid;
  border-color: var(--crust);
}
.drop form {
  display: inline-flex;
  gap: 8px;
  align-items: center;
}
</style>
