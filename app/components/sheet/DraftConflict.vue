<script setup lang="ts">
/** Somebody else changed the same file: both sides, and what to do with them. */
const sheet = useSheetStore()
const shown = ref(false)
const sides = computedAsync(async () => {
  const { theirs, view, text } = sheet
  if (!shown.value || !theirs || !view) return null
  const { maskOf } = await import('~/utils/secret-mask')
  const mask = maskOf(view, [theirs.text, text])
  return { before: mask.text(theirs.text), after: mask.text(text, theirs.text) }
}, null)
</script>

<template>
  <div v-if="sheet.theirs" class="conflict" role="alert">
    <p>
      <FindingMark kind="decision" /> <b>{{ sheet.theirs.changedBy || 'Somebody else' }}</b> changed this file while you did. Yours is here
      and not kept yet; theirs is in the tray. Nothing is lost until you choose.
    </p>
    <div class="acts">
      <button class="btn" :aria-expanded="shown" @click="shown = !shown">{{ shown ? 'Hide' : 'Show' }} the difference</button>
      <button class="btn" @click="sheet.draft?.settle('theirs')">Go on with theirs</button>
      <button class="btn" @click="sheet.draft?.settle('mine')">Keep mine instead</button>
    </div>
    <TextDiff v-if="sides" :before="sides.before" :after="sides.after" />
  </div>
</template>

<style scoped>
.conflict {
  padding: 8px 16px;
  background: var(--wash-error);
  border-bottom: 1px solid var(--crust);
  font: var(--t-small);
  max-height: 50%;
  overflow: auto;
}
.acts {
  display: flex;
  gap: 8px;
  margin-top: 6px;
}
</style>
