<script setup lang="ts">
import type { PermissionCell } from '@pasticcio/core'
import { rightWords, signOf } from '~/utils/right-words'

/**
 * Where a right comes from, as a sign of 16 by 12: a bar where it is said here, an elbow where a parent says it, cut in three by a
 * wildcard, struck where it is denied, a thread where everyone has it, a bar with a ring for operators, a point for nothing. The cells
 * of the grid carry the same classes themselves, since a sign of its own in each makes scrolling slow.
 */
defineProps<{ cell: PermissionCell; labelled?: boolean }>()
</script>

<template>
  <i
    class="right-sign"
    :class="`sign-${signOf(cell)}`"
    :role="labelled ? 'img' : undefined"
    :aria-label="labelled ? rightWords(cell) : undefined"
    :aria-hidden="labelled ? undefined : 'true'"
  />
</template>

<style>
.right-sign {
  display: inline-block;
  width: 16px;
  height: 12px;
}
:root {
  --ink: linear-gradient(currentColor, currentColor);
  --cut: repeating-linear-gradient(90deg, currentColor 0 3px, transparent 3px 4.5px);
  --across: linear-gradient(to top left, transparent 46%, currentColor 46% 54%, transparent 54%);
}
:where(.right-sign, .rights .right) {
  background-repeat: no-repeat;
  background-position: center;
}
.sign-nothing {
  background-image: radial-gradient(circle, var(--muted) 1.1px, transparent 1.5px);
  background-size: 6px 6px;
}
.sign-default {
  background-image: var(--ink);
  background-size: 100% 1.5px;
}
.sign-operator {
  background-image: var(--ink), radial-gradient(circle, transparent 1.2px, currentColor 1.4px 2.6px, transparent 2.8px);
  background-position:
    calc(50% - 2px) center,
    calc(50% + 6px) center;
  background-size:
    9px 5px,
    6px 6px;
}
.sign-own {
  background-image: var(--ink);
  background-size: 12px 5px;
}
.sign-own-many {
  background-image: var(--cut);
  background-size: 12px 5px;
}
.sign-own-denied,
.sign-own-many-denied,
.sign-parent-denied,
.sign-parent-many-denied {
  color: var(--error);
}
.sign-own-denied {
  background-image: var(--across), var(--ink);
  background-size:
    9px 11px,
    12px 5px;
}
.sign-own-many-denied {
  background-image: var(--across), var(--cut);
  background-size:
    9px 11px,
    12px 5px;
}
.sign-parent,
.sign-parent-many {
  background-image: var(--ink), var(--ink);
  background-position:
    calc(50% - 4px) calc(50% - 1px),
    center calc(50% + 3px);
  background-size:
    2px 9px,
    10px 2px;
}
.sign-parent-denied,
.sign-parent-many-denied {
  background-image: var(--across), var(--ink), var(--ink);
  background-position:
    center,
    calc(50% - 4px) calc(50% - 1px),
    center calc(50% + 3px);
  background-size:
    9px 11px,
    2px 9px,
    10px 2px;
}
.sign-parent-many {
  background-image:
    repeating-linear-gradient(currentColor 0 2px, transparent 2px 3.5px),
    repeating-linear-gradient(90deg, currentColor 0 2px, transparent 2px 3.5px);
}
.sign-parent-many-denied {
  background-image:
    var(--across), repeating-linear-gradient(currentColor 0 2px, transparent 2px 3.5px),
    repeating-linear-gradient(90deg, currentColor 0 2px, transparent 2px 3.5px);
}
</style>
