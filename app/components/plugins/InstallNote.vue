<script setup lang="ts">
/** What installing the chosen package would do, and what came of it. */
const pantry = usePantryStore()
const server = useServerStore()
const session = useSessionStore()
</script>

<template>
  <section class="note">
    <header>
      <h3>{{ pantry.chosen!.name }} {{ pantry.chosen!.version }}</h3>
    </header>
    <p class="comment">
      {{ pantry.chosen!.summary }} <span class="src">{{ pantry.chosen!.authors.join(', ') }}</span>
    </p>
    <dl class="facts">
      <dt>Game</dt>
      <dd>
        for {{ pantry.chosen!.game }}, this server runs {{ pantry.plan!.gameVersion }}
        <FindingMark :kind="pantry.plan!.problems.some((item) => item.code === 'game-version') ? 'error' : 'done'" />
      </dd>
      <dt>Asks for</dt>
      <dd>
        {{
          Object.entries(pantry.chosen!.requires)
            .map(([name, range]) => `${name} ${range}`)
            .join(', ') || 'no other plugin'
        }}
      </dd>
      <dt>Origin</dt>
      <dd>{{ pantry.chosen!.origin }}</dd>
    </dl>
    <p v-for="item in pantry.plan!.problems" :key="item.message" class="problem" :class="{ good: item.code === 'installed-already' }">
      {{ item.message }}
    </p>
    <template v-if="pantry.plan!.steps.length > 0 && !pantry.done">
      <div class="h">In this order</div>
      <ol class="steps">
        <li v-for="step in pantry.plan!.steps" :key="step.plugin">
          <span class="b">{{ step.plugin }} {{ step.version }}</span> to <code>{{ step.path }}</code><span
            v-if="step.requiredBy"
            class="muted"
          >
            because {{ step.requiredBy }} needs it</span
          ><span v-if="step.replaces" class="muted"> in place of {{ step.replaces }}</span>
        </li>
        <li v-if="pantry.plan!.restart">
          {{
            server.state.status === 'running'
              ? `The server restarts; ${counted(server.state.players ?? 0, 'player')} ${server.state.players === 1 ? 'leaves and comes' : 'leave and come'} back`
              : 'The server starts'
          }}
        </li>
        <li>The console is read: loaded, or why not</li>
        <li>The settings it writes are kept as the factory copy</li>
      </ol>
      <div class="acts">
        <NuxtLink
          v-if="pantry.replaces"
          class="btn go"
          :to="`/s/${server.slug}/updates/${pantry.chosen!.name}?package=${pantry.chosen!.id}`"
          >Plan the update</NuxtLink
        >
        <button v-else class="btn go" :disabled="pantry.blocked || pantry.working !== '' || !session.mayEdit" @click="pantry.install">
          Install and {{ server.state.status === 'running' ? 'restart' : 'start' }}
        </button>
        <button class="btn quiet" :disabled="pantry.working !== '' || !session.mayEdit" @click="pantry.remove(pantry.chosen!)">
          Take out of the pantry
        </button>
      </div>
    </template>
    <template v-if="pantry.done">
      <p class="verdict" :class="pantry.done.status === 'verified' ? 'good' : 'problem'" role="status">
        {{
          pantry.done.status === 'verified' ? `${pantry.chosen!.name} ${pantry.chosen!.version} is loaded.` : pantry.done.outcome.message
        }}
      </p>
      <div v-if="pantry.done.status === 'verified'" class="acts">
        <NuxtLink class="btn" :to="pantry.settingsLink(pantry.chosen!.name)">Open its settings</NuxtLink>
      </div>
    </template>
    <template v-if="pantry.working || pantry.done"
      ><div class="h">Console</div>
      <ConsoleLines :lines="pantry.followed" small
    /></template>
  </section>
</template>

<style scoped>
.note header {
  padding-top: 8px;
}
.steps {
  list-style: decimal;
  padding-left: 18px;
  font: var(--t-small);
  margin-top: 4px;
}
.steps li {
  padding: 3px 0;
}
.steps code {
  font-size: 12px;
  overflow-wrap: anywhere;
}
.verdict {
  margin-top: 10px;
}
.problem {
  margin-top: 8px;
}
</style>
