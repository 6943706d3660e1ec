<script setup lang="ts">
import { computed, onBeforeUnmount, shallowRef, watch } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import ProfileLook from '../profile/ProfileLook.vue'
import { count, metres, seconds } from '../../ui/figures'

/** What one waypoint is connected to, and the way to another. */
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const state = shallowRef<'asking' | 'told' | 'none'>('asking')
const names = (id: string) => {
  const w = levels.doc.waypoints[id]
  if (w?.name) return w.name
  for (const r of Object.values(levels.doc.routes)) {
    const n = r.order.findIndex((s) => r.stops[s].waypointId === id)
    if (n >= 0) return `${r.kind === 'network' ? 'node' : 'stop'} ${n + 1} of ${r.name}`
  }
  return 'a waypoint'
}
const ends = computed(() => sheet.connecting ?? {})
let asked = 0
watch(
  [ends, () => survey.seen, () => survey.profileId],
  async ([{ fromId, toId }]) => {
    const mine = ++asked
    if (!fromId || !levels.doc.waypoints[fromId]) {
      survey.connection = undefined
      state.value = 'none'
      return
    }
    state.value = 'asking'
    const answer = await survey.connect(fromId, toId)
    if (mine !== asked) return
    survey.connection = answer
    state.value = answer ? 'told' : 'none'
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  asked++
  survey.connection = undefined
})
const told = computed(() => survey.connection)
const reached = computed(() => Object.keys(told.value?.seconds ?? {}).length)
const farthest = computed(() => Math.max(0, ...Object.values(told.value?.seconds ?? {})))
const unreached = computed(() => {
  const answer = told.value
  return answer ? Object.keys(answer.strongPart).filter((id) => answer.seconds[id] === undefined) : []
})
const chooseWaypoints = (ids: readonly string[]) => {
  const wanted = new Set(ids)
  sheet.choose(
    Object.values(levels.doc.routes).flatMap((r) => r.order.filter((s) => wanted.has(r.stops[s].waypointId))),
  )
}
</script>

<template>
  <section class="panel flex max-h-full w-[282px] flex-col" aria-label="Connections">
    <header class="px-3 pt-2.5">
      <p class="text-[13px] font-bold text-lake">Connections</p>
      <h2 class="truncate text-[19px]">{{ ends.fromId ? `From ${names(ends.fromId)}` : 'Click a waypoint' }}</h2>
    </header>
    <div class="min-h-0 overflow-y-auto px-3 pb-3 text-[13px]">
      <ProfileLook label="for" />
      <p v-if="state === 'none'" class="text-faded">
        Click a waypoint on the map to see what can be reached from it; click a second one for the way to it.
      </p>
      <template v-else-if="told">
        <p class="mt-1">
          <b>{{ reached }}</b> of {{ count(told.total, 'waypoint') }} can be reached, the farthest in
          <b>{{ seconds(farthest) }}</b>.
        </p>
        <dl class="mt-1.5 grid grid-cols-2 gap-y-1">
          <dt class="text-faded">parts that never meet</dt>
          <dd class="text-right font-bold">{{ told.weaklyConnected }}</dd>
          <dt class="text-faded">parts one can go round in</dt>
          <dd class="text-right font-bold">{{ told.parts }}</dd>
          <dt class="text-faded">dead ends</dt>
          <dd class="text-right">
            <button
              class="font-bold underline"
              :disabled="told.deadEnds.length === 0"
              @click="chooseWaypoints(told.deadEnds)"
            >
              {{ told.deadEnds.length }}
            </button>
          </dd>
          <dt class="text-faded">cut nodes</dt>
          <dd class="text-right">
            <button
              class="font-bold underline"
              :disabled="told.cutNodes.length === 0"
              @click="chooseWaypoints(told.cutNodes)"
            >
              {{ told.cutNodes.length }}
            </button>
          </dd>
          <dt class="text-faded">bridges</dt>
          <dd class="text-right font-bold">{{ told.bridges.length }}</dd>
          <dt class="text-faded">out of reach</dt>
          <dd class="text-right">
            <button class="font-bold underline" :disabled="unreached.length === 0" @click="chooseWaypoints(unreached)">
              {{ unreached.length }}
            </button>
          </dd>
        </dl>
        <template v-if="ends.toId">
          <h3 class="mt-2 border-t border-rule pt-1.5 text-[15px]">To {{ names(ends.toId) }}</h3>
          <p v-if="told.overGraph">
            Over the graph <b>{{ metres(told.overGraph.metres) }}</b> in <b>{{ seconds(told.overGraph.seconds) }}</b>,
            over {{ count(told.overGraph.ids.length - 1, 'leg') }}.
          </p>
          <p v-else class="text-alarm">Nothing in the graph leads there.</p>
          <p v-if="told.overReach">
            Over the reach map <b>{{ metres(told.overReach.metres) }}</b> in
            <b>{{ seconds(told.overReach.seconds) }}</b>.
          </p>
          <p v-else class="text-alarm">Nobody can walk there.</p>
          <p v-if="told.overGraph && told.overReach" class="mt-1 text-faded">
            The graph makes it {{ metres(Math.max(0, told.overGraph.metres - told.overReach.metres)) }} longer, by
            {{
              Math.round(
                (100 * (told.overGraph.metres - told.overReach.metres)) / Math.max(0.01, told.overReach.metres),
              )
            }}
            %.
          </p>
        </template>
      </template>
      <p v-else class="text-faded">Working it out …</p>
    </div>
    <footer class="flex gap-2 border-t border-rule px-3 py-2">
      <button v-if="ends.toId" class="btn" @click="sheet.connecting = { fromId: ends.toId, toId: ends.fromId }">
        The way back
      </button>
      <button class="btn" @click="((sheet.connecting = undefined), (sheet.toolId = 'choose'))">Close</button>
    </footer>
  </section>
</template>
