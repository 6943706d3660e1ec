<script setup lang="ts">
import { addThing, freshName, spawnerSchema } from '@tidytrail/core/level'
import { laneNet } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { sourcesOf } from './sources'

const levels = useLevelStore()
const sheet = useSheetStore()
/** Lanes traffic could come onto from outside, and no stream does yet. */
const sources = computed(() => {
  const fed = new Set(Object.values(levels.doc.spawners).flatMap((s) => (s.where === 'lanes' ? s.laneIds : [])))
  return sourcesOf(laneNet(levels.doc)).filter((id) => !fed.has(id))
})

function addStream(): void {
  const { doc } = levels
  const id = randomId('spawners')
  const wheels = Object.keys(doc.profiles).find((p) => doc.profiles[p].medium === 'wheels')
  const first = doc.routes[sources.value[0]]
  const thing = spawnerSchema.parse({
    name: freshName(doc.spawners, 'Stream'),
    at: doc.waypoints[first.stops[first.order[0]].waypointId].at,
    profileId: wheels ?? null,
    where: 'lanes',
    laneIds: sources.value,
  })
  levels.perform(addThing, { in: 'spawners', id, thing })
  sheet.choose([id])
}
</script>

<template>
  <button class="btn btn-main" @click="sheet.toolId = 'spawner'">Place a spawner</button>
  <button
    v-if="sources.length > 0"
    class="btn"
    title="Traffic onto every lane that nothing leads into"
    @click="addStream"
  >
    Add a stream of traffic
  </button>
</template>
