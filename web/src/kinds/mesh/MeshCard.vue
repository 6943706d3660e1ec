<script setup lang="ts">
import { degrees, radians } from '@tidytrail/core/geometry'
import { meshAsset, settlePlan, terrainOf } from '@tidytrail/core/ground'
import { settleThings } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../../sheet/cards/CardFrame.vue'
import { useAssetStore } from '../../stores/assets'
import { count, metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import StandingFields from '../solid/StandingFields.vue'
import { useThing } from '../../sheet/cards/use-thing'

const props = defineProps<{ id: string }>()
const assets = useAssetStore()
const { levels, sheet, thing: mesh, set, release, remove } = useThing('meshes', () => props.id)
const facts = computed(() => {
  void assets.version
  const shape = terrainOf(levels.doc).meshes.find((m) => m.id === props.id)
  if (!shape) return 'It is being fetched.'
  const triangles = (meshAsset(mesh.value.assetId)?.data.indices.length ?? 0) / 3
  const { box } = shape
  return `${count(triangles, 'triangle')}, ${metres(box.maxX - box.minX)} × ${metres(box.maxY - box.minY)}, from ${shape.lowM.toFixed(2)} to ${shape.highM.toFixed(2)} m.`
})
const at = (k: number, v: number): [number, number, number] => {
  const to: [number, number, number] = [...mesh.value.at]
  to[k] = v
  return to
}
function settle() {
  const [move] = settlePlan(levels.doc, [props.id])
  if (move) levels.perform(settleThings, { heights: { [props.id]: move.to[2] } })
}
</script>

<template>
  <CardFrame kind="mesh" :name="mesh.name" tone="text-ink" :locked="mesh.locked" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">{{ facts }}</p>
    <fieldset :disabled="mesh.locked">
      <div class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2">
        <NumberField
          v-for="(word, k) in ['east', 'north', 'height']"
          :key="word"
          :label="word"
          unit="m"
          :step="0.05"
          :digits="3"
          :value="mesh.at[k]"
          @change="(v, g) => set({ at: at(k, v) }, g)"
          @done="release"
        />
        <NumberField
          label="scale"
          unit="×"
          :step="0.01"
          :digits="4"
          :min="0.0001"
          :max="10000"
          :value="mesh.scale"
          @change="(v, g) => set({ scale: v }, g)"
          @done="release"
        />
        <NumberField
          label="turned"
          unit="°"
          :step="1"
          :digits="1"
          :value="degrees(mesh.turnRad)"
          @change="(v, g) => set({ turnRad: radians(v) }, g)"
          @done="release"
        />
      </div>
      <StandingFields :thing="mesh" stand="agents may stand on it" @set="set" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="settle">Settle</button>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
