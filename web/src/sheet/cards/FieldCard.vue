<script setup lang="ts">
import { computed } from 'vue'
import AgentCard from './AgentCard.vue'
import AreaCard from '../../kinds/reach-area/AreaCard.vue'
import CoverCard from '../../kinds/cover/CoverCard.vue'
import IslandCard from './IslandCard.vue'
import ConnectCard from '../../kinds/route/ConnectCard.vue'
import LayPanel from '../lay/LayPanel.vue'
import LinkCard from '../../kinds/link/LinkCard.vue'
import NetworkCard from '../../kinds/route/NetworkCard.vue'
import WaypointCard from '../../kinds/waypoint/WaypointCard.vue'
import ManyCard from './ManyCard.vue'
import MeshCard from '../../kinds/mesh/MeshCard.vue'
import PassageCard from '../../kinds/passage/PassageCard.vue'
import ProbeCard from './ProbeCard.vue'
import ProfileCard from '../../kinds/profile/ProfileCard.vue'
import RouteCard from '../../kinds/route/RouteCard.vue'
import SolidCard from '../../kinds/solid/SolidCard.vue'
import SpawnerCard from '../../kinds/spawner/SpawnerCard.vue'
import StopCard from '../../kinds/route/StopCard.vue'
import TodoCard from './TodoCard.vue'
import UnderlayCard from '../../kinds/underlay/UnderlayCard.vue'
import SettlePanel from '../SettlePanel.vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'

defineProps<{ follow: boolean }>()
const emit = defineEmits<{ follow: [on: boolean] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const rehearsal = useRehearsalStore()

/** The chosen things by what they are: one, several stops of one route, or a mixture. */
const subject = computed(() => {
  const level = levels.doc
  const ids = sheet.selected
  if (sheet.stage === 'reach' && sheet.toolId === 'probe') return { kind: 'probe' as const }
  const [id] = ids
  if (!id) return undefined
  if (id.startsWith('island-')) return { kind: 'island' as const, number: Number(id.slice(7)) }
  const stops = new Set(Object.values(level.routes).flatMap((r) => r.order))
  if (ids.every((s) => stops.has(s))) return { kind: 'stops' as const, ids }
  if (ids.every((s) => level.links[s])) return { kind: 'links' as const, ids }
  if (ids.length > 1) return { kind: 'many' as const, ids }
  if (level.meshes[id]) return { kind: 'mesh' as const, id }
  if (level.underlays[id]) return { kind: 'underlay' as const, id }
  if (level.covers[id]) return { kind: 'cover' as const, id }
  if (level.reachAreas[id]) return { kind: 'area' as const, id }
  if (level.passages[id]) return { kind: 'passage' as const, id }
  if (level.profiles[id]) return { kind: 'profile' as const, id }
  if (level.solids[id]) return { kind: 'solid' as const, id }
  if (level.routes[id]?.kind === 'network') return { kind: 'network' as const, id }
  if (level.routes[id]) return { kind: 'route' as const, id }
  if (level.spawners[id]) return { kind: 'spawner' as const, id }
  if (rehearsal.cast.some((m) => m.id === id)) return { kind: 'agent' as const, id }
  // A finding may be about a waypoint or a brief: show who uses it.
  for (const route of Object.values(level.routes)) {
    const stop = route.order.find((s) => route.stops[s].waypointId === id)
    if (stop) return { kind: 'stops' as const, ids: [stop] }
  }
  if (level.waypoints[id]) return { kind: 'waypoint' as const, id }
  const spawner = Object.keys(level.spawners).find((s) => level.spawners[s].briefId === id)
  return spawner ? { kind: 'spawner' as const, id: spawner } : undefined
})
</script>

<template>
  <SettlePanel v-if="sheet.settling" />
  <LayPanel v-else-if="sheet.laying" />
  <ConnectCard v-else-if="sheet.connecting" />
  <ProbeCard v-else-if="subject?.kind === 'probe'" />
  <MeshCard v-else-if="subject?.kind === 'mesh'" :id="subject.id" :key="subject.id" />
  <UnderlayCard v-else-if="subject?.kind === 'underlay'" :id="subject.id" :key="subject.id" />
  <CoverCard v-else-if="subject?.kind === 'cover'" :id="subject.id" :key="subject.id" />
  <AreaCard v-else-if="subject?.kind === 'area'" :id="subject.id" :key="subject.id" />
  <PassageCard v-else-if="subject?.kind === 'passage'" :id="subject.id" :key="subject.id" />
  <ProfileCard v-else-if="subject?.kind === 'profile'" :id="subject.id" :key="subject.id" />
  <IslandCard v-else-if="subject?.kind === 'island'" :key="subject.number" :number="subject.number" />
  <SolidCard v-else-if="subject?.kind === 'solid'" :id="subject.id" :key="subject.id" />
  <RouteCard v-else-if="subject?.kind === 'route'" :id="subject.id" :key="subject.id" />
  <StopCard v-else-if="subject?.kind === 'stops'" :key="subject.ids.join()" :ids="subject.ids" />
  <LinkCard v-else-if="subject?.kind === 'links'" :ids="subject.ids" />
  <NetworkCard v-else-if="subject?.kind === 'network'" :id="subject.id" :key="subject.id" />
  <WaypointCard v-else-if="subject?.kind === 'waypoint'" :id="subject.id" :key="subject.id" />
  <SpawnerCard v-else-if="subject?.kind === 'spawner'" :id="subject.id" :key="subject.id" />
  <AgentCard
    v-else-if="subject?.kind === 'agent'"
    :id="subject.id"
    :key="subject.id"
    :follow="follow"
    @follow="emit('follow', $event)"
  />
  <ManyCard v-else-if="subject?.kind === 'many'" :ids="subject.ids" />
  <TodoCard v-else />
</template>
