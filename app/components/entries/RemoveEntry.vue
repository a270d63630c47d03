<script setup lang="ts">
/** Who refers to an entry that is about to be taken out. */
const entries = useEntriesStore()
</script>

<template>
  <p>What refers to it will name something that is not there. Look at it first, or take the entry out and mend it after.</p>
  <ReferenceList />
  <div class="acts">
    <button class="btn go" :disabled="entries.references === null || entries.isBusy" @click="entries.remove()">
      Take it out all the same
    </button>
    <button class="btn quiet" autofocus @click="entries.asked = null">Leave it</button>
  </div>
</template>
