<script setup lang="ts">
/** What must be so before anything is copied, each with whether it is. */
const install = useInstallStore()
const plan = computed(() => install.plan!)
const errors = computed(() => plan.value.problems.filter(({ severity }) => severity === 'error'))
const isOff = computed(() => plan.value.framework.isOn === false)
</script>

<template>
  <ul class="fits">
    <li>
      <FindingMark :kind="plan.problems.some(({ code }) => code === 'game-version') ? 'error' : 'done'" /> game {{ plan.gameVersion }}
    </li>
    <li v-if="plan.framework.isOn !== null">
      <FindingMark :kind="isOff && !install.switchOn ? 'error' : 'done'" /> {{ plan.framework.says }}:
      {{ isOff ? (install.switchOn ? 'will be switched on' : 'switched off') : 'switched on' }}
      <button v-if="isOff" class="act" @click="install.setSwitchOn(!install.switchOn)">
        {{ install.switchOn ? 'leave it off' : 'switch it on' }}
      </button>
    </li>
    <li v-if="errors.length === 0"><FindingMark kind="done" /> nothing stands against it</li>
  </ul>
  <p v-for="item in plan.problems" :key="item.message" class="problem" :class="{ mild: item.severity === 'warning' }">
    {{ item.message }}
  </p>
</template>

<style scoped>
.fits {
  display: flex;
  flex-wrap: wrap;
  gap: 4px 28px;
  padding: 4px 16px;
  min-height: 28px;
  align-items: center;
  font: var(--t-fine);
  border-bottom: 1px solid var(--hairline);
}
.fits li {
  display: inline-flex;
  align-items: center;
  gap: 6px;
}
</style>
