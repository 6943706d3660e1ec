<script setup lang="ts">
import { addThing, bodyOf, freshName, PRESETS, profileSchema, type Profile } from '@tidytrail/core/level'
import { ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import ProfileFigure from './ProfileFigure.vue'

/** Profiles to begin with. */
const levels = useLevelStore()
const sheet = useSheetStore()
const choosing = ref(false)

function add(preset: Profile) {
  const id = randomId('profiles')
  const name = Object.values(levels.doc.profiles).some((p) => p.name === preset.name)
    ? freshName(levels.doc.profiles, preset.name)
    : preset.name
  levels.perform(addThing, { in: 'profiles', id, thing: profileSchema.parse({ ...preset, name }) })
  choosing.value = false
  sheet.choose([id])
}
</script>

<template>
  <button class="btn btn-main" :aria-expanded="choosing" @click="choosing = !choosing">Add a profile</button>
  <div v-if="choosing" class="w-full border-t border-rule pt-1" role="menu" aria-label="Presets">
    <button
      v-for="p in PRESETS"
      :key="p.name"
      class="flex w-full items-center gap-2 px-1 py-0.5 text-left hover:bg-tint"
      role="menuitem"
      @click="add(p)"
    >
      <ProfileFigure :profile="p" small />
      <span>{{ p.name }}</span>
      <span class="label ml-auto">{{ bodyOf(p.medium).word }}</span>
    </button>
  </div>
</template>
