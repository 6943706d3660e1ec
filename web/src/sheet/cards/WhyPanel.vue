<script setup lang="ts">
import { whyAt, whyNotNoticed, type Reason } from '@tidytrail/core/insight'
import type { Point3 } from '@tidytrail/core/geometry'
import { limitWords } from '@tidytrail/core/rehearsal'
import { useThrottleFn } from '@vueuse/core'
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { whenSentence } from '../../kinds/brief/sentences'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore, type AgentMoment } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { clock, seconds } from '../../ui/figures'
import { trafficWords } from './traffic-words'
import { endsWhen, MARKED, sentenceOf, standingOf, STORY_KINDS, timerWords } from './why-words'

/** Why somebody does what it does, at the moment looked at; and why something did not happen. */
const props = defineProps<{ agentKey: number; spawnerId: string; profileId: string }>()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const insight = useInsightStore()

/** Five moments a second are as many as one can read. */
const moment = computed(() => Math.round(rehearsal.t * 5) / 5)
const why = computed(() => rehearsal.recorded && whyAt(rehearsal.recorded, props.agentKey, moment.value))
const brief = computed(() => levels.doc.briefs[why.value?.briefId ?? ''])
const sentence = computed(() => (why.value ? sentenceOf(levels.doc, why.value, why.value.stepId, props.spawnerId) : ''))
const standing = computed(() => (why.value ? standingOf(levels.doc, why.value) : ''))
const broken = computed(() => {
  const of = why.value?.interrupted
  return of && why.value ? { ...of, text: sentenceOf(levels.doc, why.value, of.stepId, props.spawnerId) } : undefined
})
const limit = computed(() =>
  why.value && why.value.limit > 0 ? limitWords(why.value.limit, rehearsal.nameOf(why.value.by)) : '',
)

/** What in traffic it is held by, in figures. */
const traffic = computed(() => {
  const of = why.value
  const now = of && of.limit > 0 ? rehearsal.recording.moment(props.agentKey, moment.value) : undefined
  if (!of || !now) return ''
  const other = of.by > 0 ? rehearsal.recording.moment(of.by, moment.value) : undefined
  const radius = (key: number) => {
    const agent = rehearsal.agents.find((a) => a.key === key)
    return levels.doc.profiles[agent?.profileId ?? '']?.radiusM ?? 0
  }
  return trafficWords(levels.doc, {
    at: [now.x, now.y, now.z],
    routeId: now.routeId,
    limit: of.limit,
    t: moment.value,
    ...(other && {
      other: { at: [other.x, other.y, other.z], mps: other.speed, apartM: radius(props.agentKey) + radius(of.by) },
    }),
  })
})

function chooseKey(key: number): void {
  const agent = rehearsal.agents.find((a) => a.key === key)
  if (agent) sheet.choose([agent.id])
}
/** The thing that holds it back: who it is, or the stop it comes to. */
function goToLimit(now: AgentMoment | undefined): void {
  if (why.value && why.value.by > 0) return chooseKey(why.value.by)
  const route = levels.doc.routes[now?.routeId ?? '']
  const stop = now && route?.order[now.toStop]
  if (stop) sheet.choose([stop])
}
const nowOf = () => rehearsal.recording.moment(props.agentKey, rehearsal.t)

const about = ref('')
const story = computed(() => {
  const kinds = STORY_KINDS[about.value]?.kinds
  const until = moment.value / rehearsal.stepS + 1e-6
  return rehearsal.events
    .filter((e) => e.key === props.agentKey && e.step <= until && (!kinds || kinds.includes(e.kind)))
    .slice(-60)
    .reverse()
    .map((e, k) => ({ id: `${e.step} ${e.kind} ${k}`, t: e.step * rehearsal.stepS, text: rehearsal.words(e) }))
})

/** What did not happen can be asked about: each of its standing sentences. */
const asked = ref('')
const reasons = computed<readonly Reason[]>(() => {
  const when = brief.value?.whens.find((w) => w.id === asked.value)
  return when && rehearsal.recorded ? whyNotNoticed(rehearsal.recorded, props.agentKey, when).slice(0, 6) : []
})
function go(reason: Reason): void {
  if (reason.atS === undefined) return
  rehearsal.playing = false
  rehearsal.seek(reason.atS)
}

/** The way ahead: from where it is to where it is going, over the reach where that is known. */
const draw = useThrottleFn(
  async () => {
    const now = nowOf()
    const of = why.value
    if (!now || !of) {
      insight.whyPath = undefined
      return
    }
    const route = levels.doc.routes[now.routeId ?? '']
    const stop = route?.order[now.toStop]
    const goal: Point3 | undefined = stop
      ? levels.doc.waypoints[route.stops[stop].waypointId]?.at
      : of.goal && [...of.goal, now.z]
    const key = props.agentKey
    const legs = route?.legs === 'drawn' ? 'drawn' : 'found'
    const way =
      goal && now.state === 'walking'
        ? await survey.path([now.x, now.y, now.z], goal, props.profileId, legs)
        : undefined
    if (key !== props.agentKey) return
    const until = rehearsal.t / rehearsal.stepS + 1e-6
    const marks = rehearsal.events.flatMap((e) => {
      const sign = e.key === key && e.step <= until ? MARKED[e.kind] : undefined
      const at = sign && rehearsal.recording.moment(key, e.step * rehearsal.stepS)
      return sign && at ? [{ at: [at.x, at.y] as const, ...sign }] : []
    })
    insight.whyPath = {
      from: [now.x, now.y],
      ahead: way?.path.found ? way.path.line : goal && now.state === 'walking' ? [goal] : [],
      goal: goal && [goal[0], goal[1]],
      minds: of.minds?.at,
      marks: marks.slice(-24),
    }
  },
  250,
  true,
)
watch([moment, () => props.agentKey, () => rehearsal.frameCount], () => void draw(), { immediate: true })
onBeforeUnmount(() => (insight.whyPath = undefined))
</script>

<template>
  <section class="mt-2 border-t border-rule pt-2" aria-label="Why is it doing that">
    <template v-if="why">
      <p v-if="standing" class="text-[12.5px] text-faded">{{ standing }}</p>
      <p v-if="sentence" class="text-[17px] leading-snug" data-testid="why-sentence">{{ sentence }}</p>
      <p v-else class="text-faded">
        {{
          brief
            ? 'It has done all it was told.'
            : levels.doc.spawners[spawnerId]?.where === 'lanes'
              ? 'It drives along its lane.'
              : 'It has no brief, so nothing to do.'
        }}
      </p>
      <p v-if="sentence" class="mt-0.5 text-[12.5px] text-faded">
        {{ endsWhen(levels.doc, why) }} It is at it for {{ seconds(why.stepS) }}.
      </p>
      <p v-if="broken" class="mt-1 text-[12.5px]" data-testid="why-interrupted">
        Broke off at
        <button class="underline" @click="rehearsal.seek(broken.atS)">{{ clock(broken.atS) }}</button><template
          v-if="broken.by > 0"
        >
          for
          <button class="underline" @click="chooseKey(broken.by)">{{ rehearsal.nameOf(broken.by) }}</button></template
        >: <span class="text-faded">{{ broken.text || 'before its first step' }}</span>
      </p>
      <ul v-if="why.timers.length > 0" class="mt-1 text-[12.5px]">
        <li v-for="t in why.timers" :key="t.of">{{ timerWords(t) }}</li>
      </ul>
      <dl class="mt-1.5 grid grid-cols-2 gap-y-1 text-[13px]">
        <div>
          <dt class="label">wants, goes</dt>
          <dd class="font-bold">{{ why.wantMps.toFixed(2) }}, {{ why.mps.toFixed(2) }} m/s</dd>
        </div>
        <div>
          <dt class="label">limited by</dt>
          <dd class="truncate">
            <button v-if="limit" class="font-bold underline" data-testid="why-limit" @click="goToLimit(nowOf())">
              {{ limit }}
            </button>
            <template v-else>–</template>
          </dd>
        </div>
        <p v-if="traffic" class="col-span-2 text-faded" data-testid="why-traffic">{{ traffic }}</p>
        <div
          v-for="[what, keys] in [
            ['sees', why.sees],
            ['hears', why.hears],
          ] as const"
          :key="what"
        >
          <dt class="label">{{ what }}</dt>
          <dd>
            <button v-for="k in keys" :key="k" class="mr-1 underline" @click="chooseKey(k)">
              {{ rehearsal.nameOf(k) }}
            </button>
            <template v-if="keys.length === 0">nobody it minds</template>
          </dd>
        </div>
        <div v-if="why.minds" class="col-span-2">
          <dt class="label">remembers</dt>
          <dd>
            <button class="underline" @click="chooseKey(why.minds.key)">{{ rehearsal.nameOf(why.minds.key) }}</button>,
            {{ why.minds.agoS < 0.3 ? 'perceived now' : `last perceived ${seconds(why.minds.agoS)} ago` }}
          </dd>
        </div>
      </dl>
    </template>
    <div v-if="brief && brief.whens.length > 0" class="mt-2">
      <label class="block">
        <span class="label">why not?</span>
        <select v-model="asked" class="field" aria-label="Why not?">
          <option value="">ask about a standing sentence …</option>
          <option v-for="w in brief.whens" :key="w.id" :value="w.id">{{ whenSentence(levels.doc, w) }}</option>
        </select>
      </label>
      <ul v-if="asked" class="mt-1 text-[12.5px]" data-testid="why-not">
        <li v-for="r in reasons" :key="r.text" class="mt-0.5">
          <button v-if="r.atS !== undefined" class="text-left underline" @click="go(r)">{{ r.text }}</button>
          <template v-else>{{ r.text }}</template>
        </li>
      </ul>
    </div>
    <!-- What somebody did is told of who has left as well. -->
    <div class="mt-2 border-t border-rule pt-2">
      <div class="flex items-baseline gap-2">
        <h3 class="text-[15px]">Its story</h3>
        <select v-model="about" class="field ml-auto w-28!" aria-label="Which lines of its story">
          <option value="">all of it</option>
          <option v-for="(k, id) in STORY_KINDS" :key="id" :value="id">{{ k.name }}</option>
        </select>
      </div>
      <ol class="max-h-40 overflow-y-auto text-[12.5px]" data-testid="story">
        <li v-for="e in story" :key="e.id">
          <button class="flex gap-2 text-left hover:underline" @click="rehearsal.seek(e.t)">
            <span class="w-9 shrink-0 text-faded">{{ clock(e.t) }}</span>{{ e.text }}
          </button>
        </li>
      </ol>
    </div>
  </section>
</template>
