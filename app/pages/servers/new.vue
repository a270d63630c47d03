<script setup lang="ts">
/** Adding a server: its folder, what is there, how it is started, and a try before it is kept. */
const adding = useNewServerStore()
onMounted(() => adding.reset())
onBeforeUnmount(() => adding.cancel())
const canTry = computed(() => adding.survey?.family !== null && adding.command.length > 0 && adding.busy === '')

async function add(untried = false): Promise<void> {
  const slug = await adding.add(untried)
  if (slug !== null) await navigateTo(`/s/${slug}/plugins`)
}
</script>

<template>
  <HouseFrame title="Add a server">
    <div class="sheet-page">
      <form @submit.prevent="adding.look()">
        <FormLine
          label="Folder"
          field="folder"
          help="The full path of the server’s own folder, on the machine that Pasticcio runs on. It is only looked at."
        >
          <span class="line-in">
            <InputText
              id="folder"
              v-model="adding.folder"
              class="grow"
              placeholder="/srv/lantern-row"
              aria-describedby="folder-help"
              autofocus
            />
            <button class="btn small" :disabled="adding.folder.trim() === '' || adding.busy !== ''">Look</button>
          </span>
        </FormLine>
      </form>
      <BaseProgress v-if="adding.busy" :label="adding.busy" />
      <Message v-if="adding.problem" severity="error">{{ adding.problem }}</Message>
      <FolderFound v-if="adding.survey" :survey="adding.survey" :busy="adding.busy !== ''" @family="adding.look($event)" />
      <template v-if="adding.survey?.family">
        <h2>How it is started</h2>
        <FormLine
          label="Command"
          field="command"
          help="The program that runs the server, and its arguments; quotes hold words with blanks together. It runs in the folder, and listens to console lines."
        >
          <InputText
            id="command"
            v-model="adding.commandLine"
            class="grow"
            :disabled="adding.busy !== ''"
            aria-describedby="command-help"
          />
        </FormLine>
        <FormLine label="Name" field="slug" help="Small letters, digits and dashes: as it is called here.">
          <InputText id="slug" v-model="adding.slug" class="w4" maxlength="40" aria-describedby="slug-help" />
        </FormLine>
        <h2>Try it</h2>
        <p class="muted">
          The server is started once, until it says that it is ready, and stopped again. If it runs already, stop it where it runs now: from
          here on it is started here.
        </p>
        <div class="acts">
          <button class="btn" :class="{ go: !adding.tried }" :disabled="!canTry" @click="adding.tryOut()">
            {{ adding.trial ? 'Try again' : 'Try it' }}
          </button>
          <button v-if="adding.trial?.status === 'running'" class="btn quiet" @click="adding.cancel()">Stop trying</button>
          <button class="btn" :class="{ go: adding.tried }" :disabled="!adding.tried || adding.busy !== ''" @click="add()">
            Add {{ adding.slug }}
          </button>
          <button v-if="!adding.tried && canTry" class="btn quiet" @click="add(true)">Add it untried</button>
        </div>
        <TryResult v-if="adding.trial" :trial="adding.trial" />
      </template>
    </div>
  </HouseFrame>
</template>

<style scoped>
.line-in {
  display: flex;
  gap: 8px;
  align-items: center;
}
.grow {
  flex: 1;
  width: 100%;
}
</style>
