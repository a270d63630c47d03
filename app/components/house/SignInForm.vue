<script setup lang="ts">
/** Name and password. */
const emit = defineEmits<{ done: [] }>()
const props = defineProps<{ name?: string }>()
const name = ref(props.name ?? '')
const password = ref('')
const { busy, problem, run } = useTask()

async function enter(): Promise<void> {
  const body = { name: name.value.trim(), password: password.value }
  if (await run(() => callApi('/api/sign-in', { body }))) emit('done')
}
</script>

<template>
  <form @submit.prevent="enter">
    <FormLine label="Name" field="name">
      <InputText id="name" v-model="name" class="w4" autocomplete="username" :autofocus="!props.name" />
    </FormLine>
    <FormLine label="Password" field="password">
      <InputText
        id="password"
        v-model="password"
        class="w4"
        type="password"
        autocomplete="current-password"
        :autofocus="Boolean(props.name)"
      />
    </FormLine>
    <Message v-if="problem" severity="error">{{ problem }}</Message>
    <div class="acts">
      <button class="btn go" :disabled="busy !== '' || name.trim() === '' || password === ''">Sign in</button>
      <slot />
    </div>
  </form>
</template>
