<script setup lang="ts">
import { ringArea } from '@tidytrail/core/geometry'
import { COVER_KINDS } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import { COVER_NATURE, coverWord } from './paint'
import NumberField from '../../ui/NumberField.vue'
import ProfileChoice from '../../ui/ProfileChoice.vue'
import TagsField from '../../ui/TagsField.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: cover, set, release, remove } = useThing('covers', () => props.id)
const kinds = computed(() => [...new Set([...COVER_KINDS, ...Object.values(levels.doc.covers).map((c) => c.kind)])])
function setKind(kind: string) {
  const word = kind.trim().slice(0, 200)
  if (word && word !== cover.value.kind) set({ kind: word, ...(COVER_NATURE[word] ?? {}) })
}
</script>

<template>
  <CardFrame
    :kind="`${coverWord(cover.kind)} cover`"
    :name="cover.name"
    tone="text-ochre"
    :locked="cover.locked"
    @rename="set({ name: $event })"
  >
    <p class="text-[13px] text-faded">
      {{ Math.round(Math.abs(ringArea(cover.ring))).toLocaleString('en') }} m², {{ cover.ring.length }} corners.
    </p>
    <fieldset :disabled="cover.locked">
      <label class="mt-1 block">
        <span class="label">kind; type a word for one of your own</span>
        <input
          class="field"
          list="cover-kinds"
          aria-label="Kind of cover"
          :value="cover.kind"
          maxlength="200"
          @change="setKind(($event.target as HTMLInputElement).value)"
        />
        <datalist id="cover-kinds"><option v-for="k in kinds" :key="k" :value="k" /></datalist>
      </label>
      <div class="mt-2 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          label="speed kept"
          unit="×"
          :step="0.01"
          :min="0.05"
          :max="10"
          :value="cover.speedFactor"
          @change="(v, g) => set({ speedFactor: v }, g)"
          @done="release"
        />
        <NumberField
          label="grip"
          unit="×"
          :step="0.01"
          :min="0.02"
          :max="2"
          :value="cover.grip"
          @change="(v, g) => set({ grip: v }, g)"
          @done="release"
        />
      </div>
      <ProfileChoice
        :chosen="cover.profileIds"
        :label="
          cover.kind === 'off-limits' ? 'all the same for (none ticked: nobody)' : 'only for (none ticked: everyone)'
        "
        @change="set({ profileIds: $event })"
      />
      <TagsField :tags="cover.tags" @change="set({ tags: $event })" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
