<script setup lang="ts">
/** Where the printed link leads: it opens a session and goes on. */
const route = useRoute()
const problem = ref('')
onMounted(async () => {
  try {
    await callApi('/api/sign-in', { body: { key: String(route.query['key'] ?? '') } })
    await navigateTo('/', { replace: true })
  } catch (error) {
    problem.value = wordsOf(error)
  }
})
</script>

<template>
  <div class="state">
    <h2>{{ problem ? 'You are not signed in' : 'Signing you in …' }}</h2>
    <p v-if="problem" role="alert">{{ problem }}</p>
  </div>
</template>
