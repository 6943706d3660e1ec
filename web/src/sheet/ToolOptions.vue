<script setup lang="ts">
import { PASSAGE_KINDS, type Passage } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { BRUSH_HINTS, BRUSH_WORDS, BRUSHES, heightBrush } from '../tools/brush-heights'
import { drawing, KIND_WORDS, linking } from '../kinds/route/draw-options'
import { PASSAGE_WORDS, passageBrush } from '../kinds/passage/draw-passage'
import { COVER_WORDS, coverBrush } from '../kinds/cover/paint'
import { applyPin, pinning } from '../kinds/underlay/pin'
import { metres } from '../ui/figures'
import NumberField from '../ui/NumberField.vue'

/** Choices of the tool in hand, right under the strip. */
const sheet = useSheetStore()
const levels = useLevelStore()
const own = ref('')
const DRAWN_KINDS = ['patrol', 'lane', 'circuit', 'mission'] as const
const kinds = computed(() => [
  ...new Set([...Object.keys(COVER_WORDS), ...Object.values(levels.doc.covers).map((c) => c.kind), coverBrush.kind]),
])
const pinned = computed(() => sheet.chosen && levels.doc.underlays[sheet.chosen] && pinning.b)
function addOwn() {
  if (own.value.trim()) coverBrush.kind = own.value.trim()
  own.value = ''
}
const place = () => {
  if (sheet.chosen) applyPin({ levels }, sheet.chosen)
}
</script>

<template>
  <div
    v-if="['cover', 'passage', 'heights', 'pin', 'draw', 'link'].includes(sheet.toolId)"
    class="panel mt-1.5 flex w-fit max-w-[640px] flex-wrap items-center gap-x-3 gap-y-1.5 px-2.5 py-1.5 text-[13px]"
  >
    <template v-if="sheet.toolId === 'cover'">
      <label v-for="k in kinds" :key="k" class="row gap-1!">
        <input v-model="coverBrush.kind" type="radio" name="cover-kind" class="accent-pine" :value="k" />
        {{ COVER_WORDS[k] ?? k }}
      </label>
      <input
        v-model="own"
        class="field w-[96px]!"
        placeholder="own kind"
        aria-label="A kind of your own"
        maxlength="60"
        @keydown.enter.prevent="addOwn"
        @change="addOwn"
      />
    </template>
    <template v-else-if="sheet.toolId === 'draw'">
      <label v-for="k in DRAWN_KINDS" :key="k" class="row gap-1!">
        <input v-model="drawing.kind" type="radio" name="route-kind" class="accent-pine" :value="k" />
        {{ KIND_WORDS[k] }}
      </label>
      <span class="row gap-1.5!">
        a drag draws
        <select v-model="drawing.drag" class="field w-auto! py-0!" aria-label="What a drag draws">
          <option value="freehand">freehand, true to</option>
          <option value="spaced">a stop every</option>
        </select>
        <input
          v-if="drawing.drag === 'freehand'"
          v-model.number="drawing.toleranceM"
          class="field w-[56px]! py-0!"
          type="number"
          min="0.1"
          max="50"
          step="0.1"
          aria-label="Tolerance of a stroke, m"
        />
        <input
          v-else
          v-model.number="drawing.spacingM"
          class="field w-[56px]! py-0!"
          type="number"
          min="0.5"
          max="500"
          step="0.5"
          aria-label="Distance from stop to stop, m"
        />
        m
      </span>
      <label class="row gap-1!" title="Stops go into the middle between what stands on both sides">
        <input v-model="drawing.middle" type="checkbox" class="accent-pine" /> keep to the middle
      </label>
    </template>
    <template v-else-if="sheet.toolId === 'link'">
      <label class="row gap-1!"
        ><input v-model="linking.twoWay" type="radio" name="link-ways" class="accent-pine" :value="true" /> both
        ways</label
      >
      <label class="row gap-1!"
        ><input v-model="linking.twoWay" type="radio" name="link-ways" class="accent-pine" :value="false" /> one
        way</label
      >
    </template>
    <template v-else-if="sheet.toolId === 'passage'">
      <label v-for="k in PASSAGE_KINDS" :key="k" class="row gap-1!">
        <input
          v-model="passageBrush.kind"
          type="radio"
          name="passage-kind"
          class="accent-pine"
          :value="k as Passage['kind']"
        />
        {{ PASSAGE_WORDS[k] }}
      </label>
    </template>
    <template v-else-if="sheet.toolId === 'heights'">
      <label v-for="k in BRUSHES" :key="k" class="row gap-1!" :title="BRUSH_HINTS[k]">
        <input v-model="heightBrush.kind" type="radio" name="brush" class="accent-pine" :value="k" />
        {{ BRUSH_WORDS[k] }}
      </label>
      <label class="row gap-1.5!">
        size
        <input
          v-model.number="heightBrush.radiusM"
          type="range"
          min="1"
          max="60"
          step="0.5"
          class="w-[84px] accent-pine"
          aria-label="Radius of the brush"
        />
        <span class="w-[44px]">{{ metres(heightBrush.radiusM) }}</span>
      </label>
      <label v-if="heightBrush.kind !== 'ramp'" class="row gap-1.5!">
        strength
        <input
          v-model.number="heightBrush.strength"
          type="range"
          min="0.05"
          max="1"
          step="0.05"
          class="w-[70px] accent-pine"
          aria-label="Strength of the brush"
        />
      </label>
    </template>
    <template v-else>
      <template v-if="pinned">
        <NumberField
          label="they are apart by"
          unit="m"
          :min="0.01"
          :value="pinning.distanceM"
          @change="(v) => (pinning.distanceM = v)"
        />
        <label class="row gap-1.5!"
          ><input v-model="pinning.turn" type="checkbox" class="accent-pine" /> lay the line west to east</label
        >
        <button class="btn btn-main" @click="place">Place the underlay</button>
      </template>
      <span v-else>Click two places on the chosen underlay whose distance you know.</span>
    </template>
  </div>
</template>
