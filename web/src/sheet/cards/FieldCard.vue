<script setup lang="ts">
import { holderOf, thingOf, type Collection } from '@tidytrail/core/level'
import { computed } from 'vue'
import { viewIn } from '../../kinds'
import PlainCard from '../../kinds/card/PlainCard.vue'
import LinkCard from '../../kinds/link/LinkCard.vue'
import ConnectCard from '../../kinds/route/ConnectCard.vue'
import LayPanel from '../../kinds/route/lay/LayPanel.vue'
import NetworkCard from '../../kinds/route/NetworkCard.vue'
import StopCard from '../../kinds/route/StopCard.vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import SettlePanel from '../SettlePanel.vue'
import AgentCard from './AgentCard.vue'
import IslandCard from './IslandCard.vue'
import ManyCard from './ManyCard.vue'
import ProbeCard from './ProbeCard.vue'
import TodoCard from './TodoCard.vue'

defineProps<{ follow: boolean }>()
const emit = defineEmits<{ follow: [on: boolean] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const rehearsal = useRehearsalStore()

/** The stop that stands for a waypoint a finding is about. */
function userOf(id: string): string | undefined {
  const level = levels.doc
  for (const route of Object.values(level.routes)) {
    const stop = route.order.find((s) => route.stops[s].waypointId === id)
    if (stop) return stop
  }
  return undefined
}

/** The chosen things by what they are: one, several stops of one route, or a mixture. */
const subject = computed(() => {
  const level = levels.doc
  const ids = sheet.selected
  if (sheet.stage === 'reach' && sheet.toolId === 'probe') return { kind: 'probe' as const }
  let [id] = ids
  if (!id) return undefined
  if (id.startsWith('island-')) return { kind: 'island' as const, number: Number(id.slice(7)) }
  if (ids.every((s) => !level.routes[s] && holderOf(level, s)?.in === 'routes')) return { kind: 'stops' as const, ids }
  if (ids.every((s) => level.links[s])) return { kind: 'links' as const, ids }
  if (ids.length > 1) return { kind: 'many' as const, ids }
  if (rehearsal.agents.some((m) => m.id === id)) return { kind: 'agent' as const, id }
  if (level.waypoints[id]) id = userOf(id) ?? id
  if (holderOf(level, id)) return { kind: 'stops' as const, ids: [id] }
  if (level.routes[id]?.kind === 'network') return { kind: 'network' as const, id }
  const found = thingOf(level, id)
  return found && viewIn(found.in) ? { kind: 'thing' as const, in: found.in, id } : undefined
})
const toneOf = (collection: Collection) => viewIn(collection)!.tone
</script>

<template>
  <SettlePanel v-if="sheet.settling" />
  <LayPanel v-else-if="sheet.laying" />
  <ConnectCard v-else-if="sheet.connecting" />
  <ProbeCard v-else-if="subject?.kind === 'probe'" />
  <IslandCard v-else-if="subject?.kind === 'island'" :key="subject.number" :number="subject.number" />
  <StopCard v-else-if="subject?.kind === 'stops'" :key="subject.ids.join()" :ids="subject.ids" />
  <LinkCard v-else-if="subject?.kind === 'links'" :ids="subject.ids" />
  <NetworkCard v-else-if="subject?.kind === 'network'" :id="subject.id" :key="subject.id" />
  <AgentCard
    v-else-if="subject?.kind === 'agent'"
    :id="subject.id"
    :key="subject.id"
    :follow="follow"
    @follow="emit('follow', $event)"
  />
  <ManyCard v-else-if="subject?.kind === 'many'" :ids="subject.ids" />
  <component
    :is="viewIn(subject.in)?.card"
    v-else-if="subject?.kind === 'thing' && viewIn(subject.in)?.card"
    :id="subject.id"
    :key="subject.id"
  />
  <PlainCard
    v-else-if="subject?.kind === 'thing'"
    :id="subject.id"
    :key="`plain-${subject.id}`"
    :in="subject.in"
    :tone="toneOf(subject.in)"
  />
  <TodoCard v-else />
</template>
