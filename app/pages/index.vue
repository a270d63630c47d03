<script setup lang="ts">
/** Goes to the first server. */
const problem = ref('')
onMounted(async () => {
  try {
    const [first] = await callApi<{ slug: string }[]>('/api/servers')
    if (first) await navigateTo(`/s/${first.slug}/plugins`)
    else problem.value = 'No server is connected yet. docs/connect.md says how.'
  } catch (error) {
    problem.value = wordsOf(error)
  }
})
</script>

<template>
  <div v-if="problem" class="state">
    <h2>Pasticcio</h2>
    <p role="alert">{{ problem }}</p>
  </div>
</template>
