<script setup lang="ts">
import { distance2 } from '@tidytrail/core/geometry'
import { floorsAt, terrainOf } from '@tidytrail/core/ground'
import { PASSAGE_KINDS, PASSAGE_STATES, type Passage } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import { PASSAGE_WORDS } from './draw-passage'
import { metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import ProfileChoice from '../../ui/ProfileChoice.vue'
import TagsField from '../../ui/TagsField.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const { levels, thing: passage, set, release, remove } = useThing('passages', () => props.id)
const rise = computed(() => passage.value.to[2] - passage.value.from[2])

/** The floors an end could lie on. */
const floors = (end: 'from' | 'to') =>
  floorsAt(terrainOf(levels.doc), passage.value[end][0], passage.value[end][1]).map(
    (f) => Math.round(f.z * 1000) / 1000,
  )
function setHeight(end: 'from' | 'to', z: number, gesture?: string) {
  const [x, y] = passage.value[end]
  set({ [end]: [x, y, z] }, gesture)
}
function turnRound() {
  set({ from: passage.value.to, to: passage.value.from })
}
const STATE_WORDS = { open: 'open', closed: 'closed, opens to whoever comes', locked: 'locked until something happens' }
</script>

<template>
  <CardFrame
    :kind="`${passage.kind} passage`"
    :name="passage.name || PASSAGE_WORDS[passage.kind]"
    tone="text-plum"
    :locked="passage.locked"
    @rename="set({ name: $event })"
  >
    <p class="text-[13px] text-faded">
      {{ metres(distance2(passage.from, passage.to)) }} over the map,
      {{ Math.abs(rise) < 0.01 ? 'level' : `${rise > 0 ? 'up' : 'down'} ${metres(Math.abs(rise))}` }}.
    </p>
    <fieldset :disabled="passage.locked">
      <div class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2">
        <label class="block">
          <span class="label">kind</span>
          <select
            class="field"
            aria-label="Kind of passage"
            :value="passage.kind"
            @change="set({ kind: ($event.target as HTMLSelectElement).value as Passage['kind'] })"
          >
            <option v-for="k in PASSAGE_KINDS" :key="k" :value="k">{{ PASSAGE_WORDS[k] }}</option>
          </select>
        </label>
        <NumberField
          label="takes"
          unit="s"
          :step="0.1"
          :min="0"
          :value="passage.takesS"
          @change="(v, g) => set({ takesS: v }, g)"
          @done="release"
        />
        <div v-for="end in ['from', 'to'] as const" :key="end">
          <NumberField
            :label="end === 'from' ? 'begins at height' : 'ends at height'"
            unit="m"
            :step="0.05"
            :value="passage[end][2]"
            @change="(v, g) => setHeight(end, v, g)"
            @done="release"
          />
          <select
            v-if="floors(end).length > 1"
            class="field mt-1"
            :aria-label="end === 'from' ? 'Floor it begins on' : 'Floor it ends on'"
            :value="floors(end).find((z) => Math.abs(z - passage[end][2]) < 0.05) ?? ''"
            @change="setHeight(end, Number(($event.target as HTMLSelectElement).value))"
          >
            <option value="" disabled>on a floor …</option>
            <option v-for="z in floors(end)" :key="z" :value="z">floor at {{ z.toFixed(2) }} m</option>
          </select>
        </div>
        <NumberField
          label="catches within"
          unit="m"
          :step="0.05"
          :min="0.05"
          :max="10"
          :value="passage.catchM"
          @change="(v, g) => set({ catchM: v }, g)"
          @done="release"
        />
        <label class="block">
          <span class="label">state</span>
          <select
            class="field"
            aria-label="State"
            :value="passage.state"
            @change="set({ state: ($event.target as HTMLSelectElement).value as Passage['state'] })"
          >
            <option v-for="s in PASSAGE_STATES" :key="s" :value="s">{{ STATE_WORDS[s] }}</option>
          </select>
        </label>
      </div>
      <label v-if="passage.state === 'locked'" class="mt-2 block">
        <span class="label">until</span>
        <input
          class="field"
          :value="passage.opensWhen"
          maxlength="4000"
          @change="set({ opensWhen: ($event.target as HTMLInputElement).value })"
        />
      </label>
      <label class="row mt-2">
        <input
          type="checkbox"
          class="accent-pine"
          :checked="passage.twoWay"
          @change="set({ twoWay: !passage.twoWay })"
        />
        leads both ways
      </label>
      <ProfileChoice
        :chosen="passage.profileIds"
        label="only for (none ticked: everyone who can)"
        @change="set({ profileIds: $event })"
      />
      <TagsField :tags="passage.tags" @change="set({ tags: $event })" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="turnRound">Turn round</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
