<script setup lang="ts">
import { addLinks, addThings, freshName, junctionSchema } from '@tidytrail/core/level'
import {
  laneNet,
  suggestJoins,
  suggestJunctions,
  suggestWalkJoins,
  usualYields,
  walkNet,
} from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { count } from '../../ui/figures'

/** What the program would make of the lanes by itself: joins they nearly make, and junctions where ways conflict. */
const levels = useLevelStore()
const net = computed(() => laneNet(levels.doc))
const joins = computed(() => suggestJoins(net.value, levels.doc.settings.drivesOn))
const sites = computed(() => suggestJunctions(levels.doc, net.value))

/** Pavements that meet at a corner. */
const corners = computed(() => suggestWalkJoins(walkNet(levels.doc), net.value))

function join(found: readonly { fromWaypointId: string; toWaypointId: string }[], twoWay: boolean): void {
  const links = found.map((s) => ({
    id: randomId('links'),
    fromId: s.fromWaypointId,
    toId: s.toWaypointId,
    twoWay,
  }))
  levels.perform(addLinks, { links })
}
const centimetres = (m: number) => Math.round(m * 100) / 100
function make(): void {
  const named = { ...levels.doc.junctions }
  const things = sites.value.map(({ ring }) => {
    const id = randomId('junctions')
    const thing = junctionSchema.parse({
      name: freshName(named, 'Junction'),
      ring: ring.map(([x, y]) => [centimetres(x), centimetres(y)]),
      control: 'give-way',
    })
    named[id] = thing
    return { in: 'junctions' as const, id, thing: { ...thing, yields: usualYields(levels.doc, net.value, thing) } }
  })
  levels.perform(addThings, { things, label: `Make ${count(things.length, 'junction')}` })
}
</script>

<template>
  <button
    class="btn"
    :disabled="joins.length === 0"
    title="Every end of a lane with the beginnings ahead that fit"
    @click="join(joins, false)"
  >
    {{ joins.length === 0 ? 'No join is missing' : `Make ${count(joins.length, 'join')} that fit` }}
  </button>
  <button
    v-if="corners.length > 0"
    class="btn"
    title="Ends of lanes for walking with the nearest end no road parts them from"
    @click="join(corners, true)"
  >
    Join {{ count(corners.length, 'corner') }} for walking
  </button>
  <button class="btn" :disabled="sites.length === 0" title="Wherever ways conflict and no junction is" @click="make">
    {{ sites.length === 0 ? 'No junction is missing' : `Make ${count(sites.length, 'junction')}` }}
  </button>
</template>
