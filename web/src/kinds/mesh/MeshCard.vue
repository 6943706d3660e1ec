<script setup lang="ts">
import { meshAsset, settlePlan, terrainOf } from '@tidytrail/core/ground'
import { settleThings } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useAssetStore } from '../../stores/assets'
import { count, metres } from '../../ui/figures'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

const props = defineProps<{ id: string }>()
const assets = useAssetStore()
const { levels, sheet, thing: mesh, things, set, setField, release, remove } = useThing('meshes', () => props.id)
const facts = computed(() => {
  void assets.version
  const shape = terrainOf(levels.doc).meshes.find((m) => m.id === props.id)
  if (!shape) return 'It is being fetched.'
  const triangles = (meshAsset(mesh.value.assetId)?.data.indices.length ?? 0) / 3
  const { box } = shape
  return `${count(triangles, 'triangle')}, ${metres(box.maxX - box.minX)} × ${metres(box.maxY - box.minY)}, from ${shape.lowM.toFixed(2)} to ${shape.highM.toFixed(2)} m.`
})
function settle() {
  const [move] = settlePlan(levels.doc, [props.id])
  if (move) levels.perform(settleThings, { heights: { [props.id]: move.to[2] } })
}
</script>

<template>
  <CardFrame kind="mesh" :name="mesh.name" tone="text-ink" :locked="mesh.locked" @rename="set({ name: $event })">
    <p class="text-[13px] text-faded">{{ facts }}</p>
    <fieldset :disabled="mesh.locked">
      <ThingFields in="meshes" :things="things" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="settle">Settle</button>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
