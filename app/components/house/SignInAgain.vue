<script setup lang="ts">
/** The session ended while somebody was at work: they sign in here, and go on with what they had not lost. */
const session = useSessionStore()
const { problem, run } = useTask()
const goOn = (): Promise<boolean> => run(session.resume)
</script>

<template>
  <BaseDialog v-if="session.isLost" :visible="true" lasting title="You were signed out">
    <p class="under">What you see here is kept as it is. Sign in, and go on.</p>
    <SignInForm :name="session.me?.name" @done="goOn">
      <button type="button" class="btn quiet" @click="goOn">I signed in elsewhere</button>
    </SignInForm>
    <Message v-if="problem" severity="error">{{ problem }}</Message>
  </BaseDialog>
</template>

<style scoped>
.under {
  font: var(--t-small);
  color: var(--muted);
  padding-bottom: 8px;
}
</style>
