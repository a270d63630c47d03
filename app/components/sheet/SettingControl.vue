<script setup lang="ts">
import { defineAsyncComponent, type Component } from 'vue'
import type { Value } from '@pasticcio/core'
import type { ControlKind } from '~/utils/control-kinds'
import type { ControlProps } from '~/utils/control-props'
import AngleControl from './controls/AngleControl.vue'
import ChoiceControl from './controls/ChoiceControl.vue'
import CodeControl from './controls/CodeControl.vue'
import ColourControl from './controls/ColourControl.vue'
import DurationControl from './controls/DurationControl.vue'
import IdControl from './controls/IdControl.vue'
import IdsControl from './controls/IdsControl.vue'
import LinesControl from './controls/LinesControl.vue'
import LinkControl from './controls/LinkControl.vue'
import NumberControl from './controls/NumberControl.vue'
import PlaceControl from './controls/PlaceControl.vue'
import PortControl from './controls/PortControl.vue'
import SecretControl from './controls/SecretControl.vue'
import SwitchControl from './controls/SwitchControl.vue'
import TextControl from './controls/TextControl.vue'
import TokensControl from './controls/TokensControl.vue'
import WeightControl from './controls/WeightControl.vue'

// what few files have, and brings much with it (as the clocks of the world), comes when a value needs it
const HostControl = defineAsyncComponent(() => import('./controls/HostControl.vue'))
const FileControl = defineAsyncComponent(() => import('./controls/FileControl.vue'))
const PictureControl = defineAsyncComponent(() => import('./controls/PictureControl.vue'))
const RackControl = defineAsyncComponent(() => import('./controls/RackControl.vue'))
const TimeControl = defineAsyncComponent(() => import('./controls/TimeControl.vue'))
const TimesControl = defineAsyncComponent(() => import('./controls/TimesControl.vue'))

/** The control that fits a value. A new one is a component, and a line here. */
const CONTROLS: Readonly<Record<ControlKind, Component>> = {
  switch: SwitchControl,
  number: NumberControl,
  duration: DurationControl,
  time: TimeControl,
  times: TimesControl,
  text: TextControl,
  choice: ChoiceControl,
  id: IdControl,
  ids: IdsControl,
  colour: ColourControl,
  place: PlaceControl,
  angle: AngleControl,
  port: PortControl,
  link: LinkControl,
  secret: SecretControl,
  host: HostControl,
  picture: PictureControl,
  file: FileControl,
  slot: NumberControl,
  weight: WeightControl,
  tokens: TokensControl,
  lines: LinesControl,
  slots: RackControl,
  block: LinesControl,
  code: CodeControl,
  reference: CodeControl,
}
defineProps<ControlProps>()
const emit = defineEmits<{ set: [value: Value] }>()
</script>

<template>
  <component :is="CONTROLS[row.control]" :row="row" :disabled="disabled" :bad="bad" @set="(value: Value) => emit('set', value)" />
</template>
