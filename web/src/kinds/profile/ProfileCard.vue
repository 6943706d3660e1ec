<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import { bodyOf, MEDIA, type Medium } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import NumberField from '../../ui/NumberField.vue'
import { toast } from '../../ui/toasts'
import ProfileFigure from './ProfileFigure.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { levels, thing: profile, set, release, remove } = useThing('profiles', () => props.id)

type LengthKey =
  | 'radiusM'
  | 'heightM'
  | 'stepM'
  | 'climbM'
  | 'dropM'
  | 'jumpM'
  | 'maxWaterDepthM'
  | 'draughtM'
  | 'minAltitudeM'
  | 'maxAltitudeM'
const FIELDS: { key: LengthKey; label: string; media: readonly Medium[]; min?: number }[] = [
  { key: 'radiusM', label: 'radius', media: MEDIA, min: 0.05 },
  { key: 'heightM', label: 'height', media: MEDIA, min: 0.05 },
  { key: 'stepM', label: 'step', media: ['foot', 'wheels', 'amphibious'] },
  { key: 'climbM', label: 'jumps up', media: ['foot', 'amphibious'] },
  { key: 'dropM', label: 'drops down', media: ['foot', 'amphibious'] },
  { key: 'jumpM', label: 'jumps over', media: ['foot', 'amphibious'] },
  { key: 'maxWaterDepthM', label: 'wades to', media: ['foot', 'wheels', 'amphibious'] },
  { key: 'draughtM', label: 'draws', media: ['water', 'amphibious'] },
  { key: 'minAltitudeM', label: 'flies above', media: ['air'] },
  { key: 'maxAltitudeM', label: 'flies below', media: ['air'] },
]
const fields = computed(() => FIELDS.filter((f) => f.media.includes(profile.value.medium)))
const sloped = computed(() => ['foot', 'wheels', 'amphibious'].includes(profile.value.medium))
const users = computed(() => Object.values(levels.doc.spawners).filter((s) => s.profileId === props.id).length)

function setGait(old: string, name: string, speed: number, gesture?: string) {
  const gaits = Object.fromEntries(
    Object.entries(profile.value.gaits).map(([k, v]) => (k === old ? [name, speed] : [k, v])),
  )
  set({ gaits, gait: profile.value.gait === old ? name : profile.value.gait }, gesture)
}
function renameGait(old: string, event: Event) {
  const input = event.target as HTMLInputElement
  const name = input.value.trim()
  if (!name || name === old || profile.value.gaits[name] !== undefined) {
    if (name && name !== old) toast(`There is a gait called ${name} already.`)
    input.value = old
    return
  }
  setGait(old, name, profile.value.gaits[old])
}
function addGait() {
  let n = Object.keys(profile.value.gaits).length + 1
  while (profile.value.gaits[`gait ${n}`] !== undefined) n++
  const fastest = Math.max(...Object.values(profile.value.gaits))
  set({ gaits: { ...profile.value.gaits, [`gait ${n}`]: Math.round(fastest * 15) / 10 } })
}
function removeGait(name: string) {
  const gaits = Object.fromEntries(Object.entries(profile.value.gaits).filter(([k]) => k !== name))
  set({ gaits, gait: profile.value.gait === name ? Object.keys(gaits)[0] : profile.value.gait })
}
</script>

<template>
  <CardFrame
    kind="profile"
    :name="profile.name"
    tone="text-pine"
    :locked="profile.locked"
    @rename="set({ name: $event })"
  >
    <ProfileFigure :profile="profile" class="-mx-1" />
    <fieldset :disabled="profile.locked">
      <label class="block">
        <span class="label">gets about</span>
        <select
          class="field"
          aria-label="Medium"
          :value="profile.medium"
          @change="set({ medium: ($event.target as HTMLSelectElement).value as Medium })"
        >
          <option v-for="m in MEDIA" :key="m" :value="m">{{ bodyOf(m).word }}</option>
        </select>
      </label>
      <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          v-for="f in fields"
          :key="f.key"
          :label="f.label"
          unit="m"
          :step="0.01"
          :min="f.min ?? 0"
          :value="profile[f.key]"
          @change="(v, g) => set({ [f.key]: v }, g)"
          @done="release"
        />
        <NumberField
          v-if="sloped"
          label="slope up to"
          unit="°"
          :step="0.5"
          :digits="1"
          :min="0"
          :max="89"
          :value="degrees(profile.maxSlopeRad)"
          @change="(v, g) => set({ maxSlopeRad: radians(v) }, g)"
          @done="release"
        />
        <NumberField
          label="acceleration"
          unit="m/s²"
          :step="0.05"
          :min="0.05"
          :value="profile.accelMps2"
          @change="(v, g) => set({ accelMps2: v }, g)"
          @done="release"
        />
        <NumberField
          label="turns"
          unit="°/s"
          :step="1"
          :digits="0"
          :min="1"
          :value="degrees(profile.turnRateRadps)"
          @change="(v, g) => set({ turnRateRadps: radians(v) }, g)"
          @done="release"
        />
      </div>
      <div class="mt-2 border-t border-rule pt-2">
        <p class="label">gaits; the marked one is used unless another is asked for</p>
        <div v-for="(speed, name) in profile.gaits" :key="name" class="mt-1 flex items-end gap-1.5">
          <input
            type="radio"
            class="mb-1.5 accent-pine"
            :name="`gait-${id}`"
            :aria-label="`Use ${name} by default`"
            :checked="profile.gait === name"
            @change="set({ gait: String(name) })"
          />
          <input
            class="field w-[90px]!"
            :value="name"
            aria-label="Name of the gait"
            maxlength="200"
            @change="renameGait(String(name), $event)"
          />
          <NumberField
            label=""
            unit="m/s"
            class="flex-1"
            :step="0.05"
            :min="0.05"
            :max="100"
            :value="speed"
            @change="(v, g) => setGait(String(name), String(name), v, g)"
            @done="release"
          />
          <button
            class="btn-quiet px-1!"
            :disabled="Object.keys(profile.gaits).length === 1"
            :aria-label="`Remove ${name}`"
            @click="removeGait(String(name))"
          >
            ×
          </button>
        </div>
        <button class="btn mt-1.5" @click="addGait">Add a gait</button>
      </div>
    </fieldset>
    <p class="mt-2 text-[13px] text-faded">
      {{
        users === 0
          ? 'No spawner sends anyone of this profile yet.'
          : `${users} ${users === 1 ? 'spawner sends' : 'spawners send'} agents of this profile.`
      }}
    </p>
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
