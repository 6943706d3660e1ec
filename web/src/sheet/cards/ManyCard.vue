<script setup lang="ts">
import { boxOf } from '@tidytrail/core/geometry'
import { boxOfThing } from '@tidytrail/core/ground'
import { movedThing, namesByPattern, setThings, shift, standsAlone, thingOf, turnAbout } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useChoice } from '../choice'
import CardFrame from '../../kinds/card/CardFrame.vue'
import { count } from '../../ui/figures'
import { compareNames } from '../../ui/names'

const props = defineProps<{ ids: readonly string[] }>()
const levels = useLevelStore()
const sheet = useSheetStore()

/** The chosen things that stand by themselves and are not locked, each with the box it takes up. */
const standing = computed(() =>
  props.ids.flatMap((id) => {
    const found = thingOf(levels.doc, id)
    if (!found || !standsAlone(found.in) || found.thing.locked) return []
    const box = boxOfThing(levels.doc, id)
    return box ? [{ ...found, box }] : []
  }),
)
type Side = 'west' | 'middle' | 'east' | 'south' | 'centre' | 'north'
const at = (b: { minX: number; maxX: number; minY: number; maxY: number }, side: Side) =>
  ({
    west: b.minX,
    middle: (b.minX + b.maxX) / 2,
    east: b.maxX,
    south: b.minY,
    centre: (b.minY + b.maxY) / 2,
    north: b.maxY,
  })[side]
const crosswise = (side: Side) => side === 'west' || side === 'middle' || side === 'east'

function moveAll(by: Map<string, [number, number]>, word: string) {
  const things = standing.value
    .filter((t) => by.has(t.id))
    .map((t) => ({ in: t.in, id: t.id, set: movedThing(t.in, t.thing, shift(...by.get(t.id)!))! }))
  if (things.length > 0) levels.perform(setThings, { things, word })
}
function align(side: Side) {
  const all = boxOf(
    standing.value.flatMap(({ box: b }) => [
      [b.minX, b.minY],
      [b.maxX, b.maxY],
    ]),
  )
  const to = at(all, side)
  moveAll(
    new Map(standing.value.map((t) => [t.id, crosswise(side) ? [to - at(t.box, side), 0] : [0, to - at(t.box, side)]])),
    'Align',
  )
}
/** Equal room between one and the next, the outermost staying where they are. */
function distribute(axis: 'x' | 'y') {
  const low = axis === 'x' ? 'minX' : 'minY'
  const high = axis === 'x' ? 'maxX' : 'maxY'
  const row = [...standing.value].sort((a, b) => a.box[low] + a.box[high] - b.box[low] - b.box[high])
  if (row.length < 3) return
  const room =
    row[row.length - 1].box[low] - row[0].box[high] - row.slice(1, -1).reduce((m, t) => m + t.box[high] - t.box[low], 0)
  const gap = room / (row.length - 1)
  let next = row[0].box[high] + gap
  const by = new Map<string, [number, number]>()
  for (const t of row.slice(1, -1)) {
    const d = next - t.box[low]
    by.set(t.id, axis === 'x' ? [d, 0] : [0, d])
    next += t.box[high] - t.box[low] + gap
  }
  moveAll(by, 'Distribute')
}
function turn(deg: number) {
  const all = boxOf(
    standing.value.flatMap(({ box: b }) => [
      [b.minX, b.minY],
      [b.maxX, b.maxY],
    ]),
  )
  const motion = turnAbout((all.minX + all.maxX) / 2, (all.minY + all.maxY) / 2, (deg * Math.PI) / 180)
  const things = standing.value.map((t) => ({ in: t.in, id: t.id, set: movedThing(t.in, t.thing, motion)! }))
  levels.perform(setThings, { things, word: 'Turn' })
}

const { remove } = useChoice()
/** The chosen routes, in the order of the register. */
const routeIds = computed(() =>
  props.ids
    .filter((id) => levels.doc.routes[id])
    .sort((a, b) => compareNames(levels.doc.routes[a].name, levels.doc.routes[b].name)),
)
const words = ref('Route #')
function renameAll() {
  const names = namesByPattern(words.value, routeIds.value.length)
  const things = routeIds.value.map((id, i) => ({ in: 'routes' as const, id, set: { name: names[i] } }))
  levels.perform(setThings, { things, word: 'Rename' })
}
const setAll = (set: object, word: string) =>
  levels.perform(setThings, { things: routeIds.value.map((id) => ({ in: 'routes' as const, id, set })), word })
const settleable = computed(() =>
  props.ids.flatMap((id) =>
    levels.doc.routes[id] ? levels.doc.routes[id].order.map((s) => levels.doc.routes[id].stops[s].waypointId) : [id],
  ),
)
const SIDES: [Side, string][] = [
  ['west', 'West sides'],
  ['middle', 'Middles'],
  ['east', 'East sides'],
  ['south', 'South sides'],
  ['centre', 'Centres'],
  ['north', 'North sides'],
]
</script>

<template>
  <CardFrame :kind="count(ids.length, 'thing')" name="Several at once" fixed tone="text-ink">
    <p class="text-faded">Drag one of them to move them all. Shift and click to add or take away.</p>
    <template v-if="routeIds.length > 1">
      <p class="label mt-2">name {{ routeIds.length }} routes by a pattern; # is the number</p>
      <div class="mt-0.5 flex gap-1.5">
        <input v-model="words" class="field" aria-label="Pattern of the names" maxlength="100" />
        <button class="btn" @click="renameAll">Rename</button>
      </div>
      <div class="mt-2 flex flex-wrap gap-1.5">
        <button class="btn" @click="setAll({ locked: true }, 'Lock')">Lock</button>
        <button class="btn" @click="setAll({ locked: false }, 'Unlock')">Unlock</button>
        <button class="btn" @click="setAll({ hidden: true }, 'Hide')">Hide</button>
        <button class="btn" @click="setAll({ hidden: false }, 'Show')">Show</button>
        <button class="btn" @click="sheet.laying = 'reshape'">Turn, scale …</button>
        <button class="btn" @click="sheet.laying = 'names'">Name stops …</button>
      </div>
    </template>
    <template v-if="standing.length > 1">
      <p class="label mt-2">align</p>
      <div class="mt-0.5 grid grid-cols-3 gap-1.5">
        <button
          v-for="[side, word] in SIDES"
          :key="side"
          class="btn justify-center px-1! text-[12.5px]"
          @click="align(side)"
        >
          {{ word }}
        </button>
      </div>
      <p class="label mt-2">equal room between</p>
      <div class="mt-0.5 flex gap-1.5">
        <button class="btn" :disabled="standing.length < 3" @click="distribute('x')">West to east</button>
        <button class="btn" :disabled="standing.length < 3" @click="distribute('y')">South to north</button>
      </div>
      <p class="label mt-2">turn together</p>
      <div class="mt-0.5 flex gap-1.5">
        <button class="btn" @click="turn(90)">90° left</button>
        <button class="btn" @click="turn(-90)">90° right</button>
        <button class="btn" @click="turn(15)">15° left</button>
      </div>
    </template>
    <template #foot>
      <button class="btn" @click="sheet.settling = [...settleable]">Settle …</button>
      <button v-if="standing.length > 0" class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete all {{ ids.length }}</button>
    </template>
  </CardFrame>
</template>
