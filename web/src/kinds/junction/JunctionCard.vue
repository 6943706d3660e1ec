<script setup lang="ts">
import { usualPhases, usualYields, laneNet } from '@tidytrail/core/traffic'
import { computed, onUnmounted } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { useTrafficStore } from '../../stores/traffic'
import SignalPlan from './SignalPlan.vue'
import WatchList from './WatchList.vue'
import { cellOf, CELL_SIGNS, CELL_WORDS, nextYields, planOf, wayWords } from './ways'
import type { Way } from '@tidytrail/core/traffic'

/** A junction: what controls it, a table of its ways against each other, and its signal plan. */
const props = defineProps<{ id: string }>()
const { levels, thing: junction, things, set, setField, release, remove } = useThing('junctions', () => props.id)
const traffic = useTrafficStore()
const plan = computed(() => planOf(levels.doc, props.id))
const open = computed(() => plan.value.pairs.filter((p) => p.settled.by === 'nothing').length)
const words = (way: Way) => wayWords(levels.doc, way)
const cell = (row: Way, column: Way) => cellOf(plan.value.pairOf.get(`${row.id} ${column.id}`), row.id)
const says = (row: Way, column: Way) => `${words(row)} ${CELL_WORDS[cell(row, column)]} ${words(column)}`
function turn(row: Way, column: Way): void {
  set({ yields: nextYields(junction.value, row, column, cell(row, column)) })
}
function point(row?: Way, column?: Way): void {
  traffic.pair = row && column ? [row.id, column.id] : undefined
}
onUnmounted(() => point())
const net = () => laneNet(levels.doc)
const usual = (stops: boolean) => usualYields(levels.doc, net(), { ...junction.value, yields: [] }, stops)
function control(value: string): void {
  const next = value as typeof junction.value.control
  const changes: Parameters<typeof set>[0] = { control: next }
  const phases = next === 'signals' && junction.value.phases.length === 0
  if (phases) changes.phases = usualPhases(levels.doc, net(), junction.value)
  if (['give-way', 'stop', 'signals'].includes(next))
    changes.yields = usualYields(levels.doc, net(), { ...junction.value, ...changes, yields: [] }, next === 'stop')
  set(changes)
}
const CONTROLS = {
  none: 'nothing',
  'give-way': 'the lesser road gives way',
  stop: 'the lesser road stops',
  'all-way': 'all stop, first come first',
  side: 'priority from one side',
  signals: 'signals',
} as const
</script>

<template>
  <CardFrame
    kind="junction"
    :name="junction.name"
    tone="text-plum"
    :locked="junction.locked"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="junction.locked">
      <label class="block">
        <span class="label">settled by</span>
        <select
          class="field"
          aria-label="settled by"
          :value="junction.control"
          @change="control(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="(word, c) in CONTROLS" :key="c" :value="c">{{ word }}</option>
        </select>
      </label>
      <p
        v-if="plan.ways.length > 0"
        class="my-2 border-l-4 bg-tint px-2 py-1 font-bold"
        :class="open > 0 ? 'border-alarm' : 'border-pine'"
        data-testid="settled"
      >
        {{
          open > 0
            ? `${open} of ${plan.pairs.length} conflicts are not settled.`
            : `All ${plan.pairs.length} conflicts are settled.`
        }}
      </p>
      <p v-else class="my-2 text-faded">No way leads through it. Join the lanes that meet here.</p>
      <table v-if="plan.ways.length > 0" class="w-full table-fixed border-collapse text-[11px]" data-testid="pairs">
        <caption class="label pb-1 text-left">
          ways against each other: click to change
        </caption>
        <thead>
          <tr>
            <td></td>
            <th v-for="(way, k) in plan.ways" :key="way.id" scope="col" class="p-0 font-normal" :title="words(way)">
              {{ k + 1 }}
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(row, r) in plan.ways" :key="row.id">
            <th scope="row" class="pr-1 text-right font-normal" :title="words(row)">{{ r + 1 }}</th>
            <td v-for="column in plan.ways" :key="column.id" class="border border-rule p-0 text-center">
              <button
                v-if="cell(row, column) !== 'none'"
                class="block h-5 w-full leading-none hover:bg-tint focus-visible:bg-tint"
                :class="cell(row, column) === 'open' ? 'bg-alarm font-bold text-sheet' : ''"
                :aria-label="says(row, column)"
                :title="says(row, column)"
                :disabled="cell(row, column) === 'signal'"
                @click="turn(row, column)"
                @mouseenter="point(row, column)"
                @mouseleave="point()"
                @focus="point(row, column)"
                @blur="point()"
              >
                {{ CELL_SIGNS[cell(row, column)] }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-if="plan.ways.length > 0" class="mt-1 text-[12px] text-faded">
        ▽ gives way · ■ stops first · • goes first · ≡ signals · ? not settled
      </p>
      <div class="mt-2 flex flex-wrap gap-1.5">
        <button class="btn" title="Main road first, who turns across waits" @click="set({ yields: usual(false) })">
          Settle as usual
        </button>
      </div>
      <WatchList :id="id" />
      <SignalPlan v-if="junction.control === 'signals'" :id="id" />
      <ThingFields in="junctions" :things="things" :except="['control']" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
