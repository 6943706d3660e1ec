<script setup lang="ts">
import { laneNet } from '@tidytrail/core/traffic'
import { IconTrash } from '@tabler/icons-vue'
import { computed } from 'vue'
import IconButton from '../../ui/IconButton.vue'
import NumberField from '../../ui/NumberField.vue'
import { count } from '../../ui/figures'
import { useThing } from '../card/use-thing'
import { sourcesOf } from './sources'

/** The lanes a stream comes onto, how much flows at which time, and where it is bound for. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: spawner, set, release } = useThing('spawners', () => props.id)
const net = computed(() => laneNet(levels.doc))
const nameOf = (id: string) => levels.doc.routes[id]?.name ?? '?'
const byName = (a: string, b: string) => nameOf(a).localeCompare(nameOf(b), 'en', { numeric: true })
const others = computed(() =>
  [...net.value.lanes.keys()].filter((id) => !spawner.value.laneIds.includes(id)).sort(byName),
)
const left = computed(() => sourcesOf(net.value).filter((id) => !spawner.value.laneIds.includes(id)))
const ends = computed(() =>
  [...net.value.lanes.keys()].filter((id) => !spawner.value.bound.some((b) => b.laneId === id)).sort(byName),
)
const valueOf = (event: Event) => {
  const box = event.target as HTMLSelectElement
  const { value } = box
  box.value = ''
  return value
}
const add = (id: string) => id && set({ laneIds: [...spawner.value.laneIds, id] })
const bind = (laneId: string) => laneId && set({ bound: [...spawner.value.bound, { laneId, share: 1 }] })

const flows = computed(() => spawner.value.hours)
function addFlow(): void {
  const last = flows.value[flows.value.length - 1]
  set({ hours: [...flows.value, { fromS: (last?.fromS ?? 0) + 3600, perH: last?.perH ?? spawner.value.perH }] })
}
const change = (k: number, values: { fromS?: number; perH?: number }, gesture?: string) =>
  set({ hours: flows.value.map((f, q) => (q === k ? { ...f, ...values } : f)) }, gesture)
</script>

<template>
  <div>
    <ul class="mt-1 max-h-40 overflow-y-auto" aria-label="Lanes it comes onto">
      <li v-for="laneId in spawner.laneIds" :key="laneId" class="row py-0.5">
        <button class="min-w-0 flex-1 truncate text-left underline" @click="sheet.choose([laneId])">
          {{ nameOf(laneId) }}
        </button>
        <IconButton
          :label="`Not onto ${nameOf(laneId)}`"
          :icon="IconTrash"
          @click="set({ laneIds: spawner.laneIds.filter((l) => l !== laneId) })"
        />
      </li>
    </ul>
    <div class="row">
      <select class="field min-w-0 flex-1" aria-label="Add a lane it comes onto" @change="add(valueOf($event))">
        <option value="">onto a lane …</option>
        <option v-for="laneId in others" :key="laneId" :value="laneId">{{ nameOf(laneId) }}</option>
      </select>
    </div>
    <button
      v-if="left.length > 0"
      class="btn mt-1"
      title="Lanes that nothing leads into: there traffic comes from outside"
      @click="set({ laneIds: [...spawner.laneIds, ...left] })"
    >
      Onto {{ count(left.length, 'lane') }} nothing leads into
    </button>
    <template v-for="(flow, k) in flows" :key="k">
      <div class="row mt-1 items-end">
        <NumberField
          class="flex-1"
          :label="`from, ${k + 1}`"
          unit="min"
          :step="1"
          :digits="0"
          :min="0"
          :value="flow.fromS / 60"
          @change="(v, g) => change(k, { fromS: v * 60 }, g)"
          @done="release"
        />
        <NumberField
          class="flex-1"
          :label="`an hour, ${k + 1}`"
          :step="10"
          :digits="0"
          :min="0"
          :max="100000"
          :value="flow.perH"
          @change="(v, g) => change(k, { perH: v }, g)"
          @done="release"
        />
        <IconButton
          :label="`Take flow ${k + 1} away`"
          :icon="IconTrash"
          @click="set({ hours: flows.filter((_, q) => q !== k) })"
        />
      </div>
    </template>
    <button class="btn mt-1" @click="addFlow">Another flow from a time on</button>
    <h4 class="label mt-2">bound for</h4>
    <p v-if="spawner.bound.length === 0" class="text-[13px] text-faded">Nowhere: at each fork by its shares.</p>
    <div v-for="(b, k) in spawner.bound" :key="b.laneId" class="row items-end">
      <NumberField
        class="min-w-0 flex-1"
        :label="`share to ${nameOf(b.laneId)}`"
        :step="0.1"
        :digits="1"
        :min="0"
        :max="1000"
        :value="b.share"
        @change="(v, g) => set({ bound: spawner.bound.map((o, q) => (q === k ? { ...o, share: v } : o)) }, g)"
        @done="release"
      />
      <IconButton
        :label="`Not bound for ${nameOf(b.laneId)}`"
        :icon="IconTrash"
        @click="set({ bound: spawner.bound.filter((_, q) => q !== k) })"
      />
    </div>
    <select class="field mt-1" aria-label="Add where it is bound for" @change="bind(valueOf($event))">
      <option value="">bound for a lane …</option>
      <option v-for="laneId in ends" :key="laneId" :value="laneId">{{ nameOf(laneId) }}</option>
    </select>
  </div>
</template>
