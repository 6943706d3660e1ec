<script setup lang="ts">
import { computed } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import NumberField from '../../ui/NumberField.vue'
import { toast } from '../../ui/toasts'
import ProfileFigure from './ProfileFigure.vue'
import { useThing } from '../card/use-thing'

const props = defineProps<{ id: string }>()
const { levels, thing: profile, things, set, setField, release, remove } = useThing('profiles', () => props.id)

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
      <ThingFields in="profiles" :things="things" @set="setField" @done="release" />
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
