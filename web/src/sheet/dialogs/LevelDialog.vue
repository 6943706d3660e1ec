<script setup lang="ts">
import { changeSettings, type Settings } from '@tidytrail/core/level'
import { defaultProfile } from '@tidytrail/core/network'
import { reachCost } from '@tidytrail/core/reach'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import AskDialog from '../../ui/AskDialog.vue'
import { count } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import { toast } from '../../ui/toasts'

/** Extent, water and how finely the reach is worked out, with what that costs before it is chosen. */
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const settings = computed(() => levels.doc.settings)
const CELLS = [0.1, 0.15, 0.2, 0.25, 0.5, 1, 2]
/** The bodies whose reach is worked out, by their radius. */
const radii = computed(() => {
  const known = [...survey.reach.keys()].flatMap((id) => levels.doc.profiles[id]?.radiusM ?? [])
  return known.length > 0 ? known : [Infinity]
})
const profiles = computed(() => radii.value.length)
const costs = computed(() =>
  CELLS.map((cellM) => {
    const each = radii.value.map((radiusM) => reachCost(settings.value.extent, cellM, radiusM))
    const sum = (key: 'buildS' | 'memoryMB') => each.reduce((s, c) => s + c[key], 0)
    const c = { ...each[0], columns: Math.max(...each.map((e) => e.columns)), memoryMB: sum('memoryMB') }
    const buildS = sum('buildS')
    return {
      cellM,
      tooMany: c.tooMany,
      words: c.tooMany
        ? `${(c.columns / 1e6).toFixed(0)} million columns: too many`
        : `${c.columns >= 1e6 ? `${(c.columns / 1e6).toFixed(1)} million` : Math.round(c.columns / 1000).toLocaleString('en') + ' thousand'} columns, ${buildS < 1 ? 'under a second' : `${Math.round(buildS)} s`} anew, ${Math.max(1, Math.round(c.memoryMB))} MB`,
    }
  }),
)
const cost = computed(() => costs.value.find((c) => c.cellM === settings.value.cellM))
const set = (values: Partial<Settings>) => levels.perform(changeSettings, { set: values })

function setExtent(key: keyof Settings['extent'], value: number) {
  const extent = { ...settings.value.extent, [key]: value }
  if (extent.maxX - extent.minX < 1 || extent.maxY - extent.minY < 1)
    return toast('The level would be less than a metre wide.', { kind: 'alarm' })
  if (reachCost(extent, settings.value.cellM).tooMany)
    return toast('That is too large for so fine a reach map; choose wider columns first.', { kind: 'alarm' })
  set({ extent })
}
/** Who that is when the level names nobody. */
const usual = computed(() => {
  const id = defaultProfile({ ...levels.doc, settings: { ...settings.value, usualProfileId: null } })
  return id ? levels.doc.profiles[id].name : ''
})
const WORDS = { minX: 'west', minY: 'south', maxX: 'east', maxY: 'north' } as const
</script>

<template>
  <AskDialog
    :open="sheet.settingUp"
    title="The sheet"
    text="How large the level is, where its water stands, and how finely reach is worked out."
    @close="sheet.settingUp = false"
  >
    <div class="mt-3 grid grid-cols-4 gap-3">
      <NumberField
        v-for="(word, key) in WORDS"
        :key="key"
        :label="`edge, ${word}`"
        unit="m"
        :value="settings.extent[key]"
        @change="(v) => setExtent(key, v)"
        @done="levels.release()"
      />
    </div>
    <div class="mt-3 flex items-end gap-3 border-t border-rule pt-3">
      <label class="row pb-1">
        <input
          type="checkbox"
          class="accent-pine"
          :checked="settings.waterLevelM !== null"
          @change="set({ waterLevelM: settings.waterLevelM === null ? 0 : null })"
        />
        there is water
      </label>
      <NumberField
        v-if="settings.waterLevelM !== null"
        class="w-[120px]"
        label="its surface at"
        unit="m"
        :step="0.05"
        :value="settings.waterLevelM"
        @change="(v, g) => levels.perform(changeSettings, { set: { waterLevelM: v } }, g)"
        @done="levels.release()"
      />
    </div>
    <label class="mt-3 block border-t border-rule pt-3">
      <span class="label">reach is worked out in columns as wide as</span>
      <select
        class="field text-[13px]"
        aria-label="Width of a column"
        :value="settings.cellM"
        @change="set({ cellM: Number(($event.target as HTMLSelectElement).value) })"
      >
        <option v-if="!cost" :value="settings.cellM">{{ settings.cellM }} m</option>
        <option v-for="c in costs" :key="c.cellM" :value="c.cellM" :disabled="c.tooMany">
          {{ c.cellM }} m: {{ c.words }}
        </option>
      </select>
    </label>
    <p class="mt-1 text-[13px] text-faded">
      For {{ count(profiles, 'profile') }}. Blocks, ramps, stairs, areas and covers are told to the centimetre whatever
      the columns; finer ones follow imported meshes, slopes and shores better, and cost what is said.
    </p>
    <label class="mt-3 block border-t border-rule pt-3">
      <span class="label">what nobody follows yet is judged by</span>
      <select
        class="field text-[13px]"
        aria-label="Usual profile"
        :value="levels.doc.profiles[settings.usualProfileId ?? ''] ? settings.usualProfileId : ''"
        @change="set({ usualProfileId: ($event.target as HTMLSelectElement).value || null })"
      >
        <option value="">whoever is sent most, else the slimmest{{ usual ? `: now ${usual}` : '' }}</option>
        <option v-for="(p, id) in levels.doc.profiles" :key="id" :value="id">{{ p.name }}</option>
      </select>
    </label>
    <button class="btn btn-main mt-4" @click="sheet.settingUp = false">Done</button>
  </AskDialog>
</template>
