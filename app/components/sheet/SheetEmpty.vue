<script setup lang="ts">
defineProps<{ onlyMine: boolean }>()
</script>

<template>
  <div class="state" role="row">
    <div role="gridcell">
      <h2>{{ onlyMine ? 'Nothing here is yours yet' : 'This file holds no settings' }}</h2>
      <p>
        {{
          onlyMine
            ? 'Every setting is as the plugin shipped it. Switch “Only mine” off to see them all.'
            : 'Its text can be seen and edited under Source.'
        }}
      </p>
    </div>
  </div>
</template>
