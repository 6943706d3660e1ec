<script setup lang="ts">
import { mixSchema, nameOf, type Spawner } from '@tidytrail/core/level'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import NumberField from '../../ui/NumberField.vue'
import { useThing } from '../card/use-thing'

/** Who is sent by turns with a spawner's own kind, by weight: another body, side or brief. */
const props = defineProps<{ id: string }>()
const { levels, thing: spawner, set, release } = useThing('spawners', () => props.id)
type Mixed = Spawner['mix'][number]
const PARTS = [
  { key: 'profileId', label: 'profile', in: 'profiles' },
  { key: 'factionId', label: 'faction', in: 'factions' },
  { key: 'briefId', label: 'brief', in: 'briefs' },
] as const
const parts = computed(() => PARTS.filter((p) => Object.keys(levels.doc[p.in]).length > 0))
const change = (k: number, values: Partial<Mixed>, gesture?: string) =>
  set({ mix: spawner.value.mix.map((m, q) => (q === k ? { ...m, ...values } : m)) }, gesture)
const add = () => set({ mix: [...spawner.value.mix, mixSchema.parse({})] })
const drop = (k: number) => set({ mix: spawner.value.mix.filter((_, q) => q !== k) })
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value || null
</script>

<template>
  <div>
    <NumberField
      v-if="spawner.mix.length > 0"
      label="weight of its own kind"
      :step="0.1"
      :digits="1"
      :min="0"
      :max="1000"
      :value="spawner.weight"
      @change="(v, g) => set({ weight: v }, g)"
      @done="release"
    />
    <fieldset v-for="(m, k) in spawner.mix" :key="k" class="mt-2 border-l-4 border-rule pl-2">
      <legend class="label">or instead ({{ k + 1 }})</legend>
      <label v-for="p in parts" :key="p.key" class="block">
        <span class="label">{{ p.label }}</span>
        <select
          class="field"
          :aria-label="`${p.label} of ${k + 1}`"
          :value="m[p.key] ?? ''"
          @change="change(k, { [p.key]: valueOf($event) })"
        >
          <option value="">as its own kind</option>
          <option v-for="tid in Object.keys(levels.doc[p.in])" :key="tid" :value="tid">
            {{ nameOf(levels.doc, tid) }}
          </option>
        </select>
      </label>
      <div class="row items-end">
        <NumberField
          class="flex-1"
          :label="`weight of ${k + 1}`"
          :step="0.1"
          :digits="1"
          :min="0"
          :max="1000"
          :value="m.weight"
          @change="(v, g) => change(k, { weight: v }, g)"
          @done="release"
        />
        <IconButton :label="`Take ${k + 1} out of the mix`" :icon="IconTrash" @click="drop(k)" />
      </div>
    </fieldset>
    <button class="btn mt-1" @click="add">Mix with another kind</button>
  </div>
</template>
