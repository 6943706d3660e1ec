<script setup lang="ts">
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import CardFrame from '../../kinds/card/CardFrame.vue'
import { clock, metres, seconds } from '../../ui/figures'
import { keepSteered } from '../keep-steered'
import CompanyLines from './CompanyLines.vue'
import WhyPanel from './WhyPanel.vue'
import { stateWords, stopName, VERDICT_TONES, VERDICT_WORDS } from '../verdict-words'

const props = defineProps<{ id: string; follow: boolean }>()
const emit = defineEmits<{ follow: [on: boolean] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const rehearsal = useRehearsalStore()

const n = computed(() => rehearsal.placeOf(props.id))
const member = computed(() => rehearsal.agents[n.value])
const now = computed(() => (void rehearsal.frameCount, rehearsal.moment(n.value)))
const verdict = computed(() => rehearsal.verdictOf.get(props.id))
/** The route it is on, or is told to follow. */
const routeId = computed(() => now.value?.routeId ?? member.value?.routeId ?? null)
const route = computed(() => (routeId.value ? levels.doc.routes[routeId.value] : undefined))
const steered = computed(() => rehearsal.steering === props.id)
/** Was it steered before the moment looked at, so that there is a line to keep? */
const wasSteered = computed(
  () =>
    member.value?.standIn &&
    rehearsal.events.some(
      (e) => e.kind === 'steered' && e.key === member.value.key && e.step * rehearsal.stepS < rehearsal.t,
    ),
)
function keepLine() {
  const kept = keepSteered(
    levels.doc,
    member.value.spawnerId,
    rehearsal.recording.steeredTrack(member.value.key, member.value.appearedS, rehearsal.t),
  )
  if (!kept) return
  rehearsal.takeOver(undefined)
  if (levels.together(kept.label, kept.edits)) sheet.choose([kept.routeId])
}
const moving = computed(() => now.value?.state === 'walking')
const TEXT = { good: 'text-pine', fair: 'text-ochre', bad: 'text-alarm', plain: 'text-faded' }
</script>

<template>
  <CardFrame
    v-if="member"
    :kind="`${member.profileName} · ${route?.name ?? 'no route'}`"
    :name="member.name"
    fixed
    tone="text-rust"
    :subjects="[]"
  >
    <p class="mb-2 border-l-4 border-rust bg-tint px-2 py-1 font-bold" data-testid="agent-state">
      {{ stateWords(levels.doc, now) }}
    </p>
    <dl v-if="now" class="grid grid-cols-2 gap-y-1.5 text-[13px]">
      <div v-if="now.toStop >= 0">
        <dt class="label">leg</dt>
        <dd class="font-bold">
          {{ now.toStop < 0 ? '–' : now.fromStop < 0 ? 'to the start' : `${now.fromStop + 1} to ${now.toStop + 1}` }}
        </dd>
      </div>
      <div v-if="now.toStop >= 0" class="col-span-2">
        <dt class="label">target</dt>
        <dd class="truncate font-bold">
          {{ now.toStop < 0 ? '–' : `stop ${stopName(levels.doc, now.routeId, now.toStop)}` }}
        </dd>
      </div>
      <div>
        <dt class="label">speed</dt>
        <dd class="font-bold">{{ now.speed.toFixed(2) }} m/s</dd>
      </div>
      <div>
        <dt class="label">off the line</dt>
        <dd class="font-bold">{{ moving ? metres(now.offLine) : '–' }}</dd>
      </div>
      <div class="col-span-2">
        <dt class="label">place</dt>
        <dd>x {{ now.x.toFixed(1) }} y {{ now.y.toFixed(1) }} · {{ now.z.toFixed(2) }} m up</dd>
      </div>
    </dl>
    <WhyPanel :agent-key="member.key" :spawner-id="member.spawnerId" :profile-id="member.profileId" />
    <div v-if="verdict" class="mt-2 border-t border-rule pt-2">
      <h3 class="text-[15px]">
        Verdict
        <span :class="TEXT[VERDICT_TONES[verdict.verdict]]" data-testid="verdict">{{
          VERDICT_WORDS[verdict.verdict]
        }}</span>
      </h3>
      <p class="text-[12.5px] text-faded">
        as of {{ clock(rehearsal.judgedS)
        }}{{ rehearsal.judgedS < rehearsal.seconds - 0.05 ? `, of ${clock(rehearsal.seconds)}` : ', the end' }}
      </p>
      <ul v-if="verdict.reasons.length > 0" class="my-1 list-disc pl-4 text-[13px]">
        <li v-for="r in verdict.reasons" :key="r">{{ r }}</li>
      </ul>
      <dl class="grid grid-cols-3 gap-y-1 text-[13px]">
        <div>
          <dt class="label">stops made</dt>
          <dd class="font-bold">{{ verdict.stops.made }}</dd>
        </div>
        <div>
          <dt class="label">due by now</dt>
          <dd class="font-bold">{{ verdict.stops.due }}</dd>
        </div>
        <div>
          <dt class="label">stuck</dt>
          <dd class="font-bold">{{ seconds(verdict.longestStuckS) }}</dd>
        </div>
        <div>
          <dt class="label">off, typical</dt>
          <dd class="font-bold">{{ metres(verdict.crossTrack.rms) }}</dd>
        </div>
        <div>
          <dt class="label">off, 95 %</dt>
          <dd class="font-bold">{{ metres(verdict.crossTrack.p95) }}</dd>
        </div>
        <div>
          <dt class="label">off, most</dt>
          <dd class="font-bold">{{ metres(verdict.crossTrack.max) }}</dd>
        </div>
        <div>
          <dt class="label">on its legs</dt>
          <dd class="font-bold">{{ seconds(verdict.legs.tookS) }}</dd>
        </div>
        <div class="col-span-2">
          <dt class="label">expected at its gait</dt>
          <dd class="font-bold">{{ seconds(verdict.legs.expectedS) }}</dd>
        </div>
      </dl>
    </div>
    <CompanyLines :agent-key="member.key" />
    <template #foot>
      <button class="btn" :class="follow ? 'bg-tint!' : ''" :aria-pressed="follow" @click="emit('follow', !follow)">
        Follow
      </button>
      <button v-if="route" class="btn" @click="sheet.choose([routeId!])">Open its route</button>
      <button
        v-if="member.standIn && !rehearsal.kept"
        class="btn"
        :class="steered ? 'bg-tint!' : ''"
        :aria-pressed="steered"
        title="Arrows or WASD steer it, Shift runs, Alt walks quietly, N makes a noise; Escape lets it go"
        @click="rehearsal.takeOver(steered ? undefined : id)"
      >
        {{ steered ? 'Let it go' : 'Steer by keys' }}
      </button>
      <button
        v-if="wasSteered"
        class="btn"
        title="Make a route of what was steered, with its pauses, and let it follow that"
        @click="keepLine"
      >
        Keep its line
      </button>
    </template>
  </CardFrame>
</template>
