<script setup lang="ts">
import { ringArea } from '@tidytrail/core/geometry'
import { COVER_KINDS } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import RankButtons from '../card/RankButtons.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { COVER_NATURE, coverWord } from './paint'

const props = defineProps<{ id: string }>()
const { levels, sheet, thing: cover, things, set, setField, release, remove } = useThing('covers', () => props.id)
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
      <ThingFields
        in="covers"
        :things="things"
        :restriction="
          cover.kind === 'off-limits' ? 'all the same for (none ticked: nobody)' : 'only for (none ticked: everyone)'
        "
        @set="setField"
        @done="release"
      />
      <RankButtons :id="id" in="covers" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
