<script setup lang="ts">
import { addThing, hasBareGround, WARDEN } from '@tidytrail/core/level'
import { computed } from 'vue'
import { STAGE_NAMES, useSheetStore } from '../../stores/sheet'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSurveyStore } from '../../stores/survey'
import { useRehearsalStore } from '../../stores/rehearsal'
import GroundOffers from './GroundOffers.vue'
import WaysOut from '../../findings/WaysOut.vue'
import { requestPlace } from '../../map/zoom-wish'

const sheet = useSheetStore()
const levels = useLevelStore()
const survey = useSurveyStore()
const rehearsal = useRehearsalStore()
const insight = useInsightStore()

const ABOUT = {
  ground: 'What the place is made of: heights, and solids blocked out on them.',
  reach: 'Where each kind of body can go, and why not elsewhere.',
  routes: 'The ways that are walked, stop by stop.',
  cast: 'Who appears where, and what they are told to do.',
  rehearse: 'Run it, and see whether everyone follows.',
  'sign-off': 'The proofs that it all works.',
}
/** More are listed in the drawer alone. */
const MOST_LISTED = 30
const empty = (record: object) => Object.keys(record).length === 0

const addWarden = () => levels.perform(addThing, { in: 'profiles', id: randomId('profiles'), thing: WARDEN })

/** The first thing to do, when the stage has nothing yet. */
const first = computed(() => {
  const l = levels.doc
  if (sheet.stage === 'reach' && empty(l.profiles)) return { text: 'Add a warden', run: addWarden }
  if (sheet.stage === 'routes' && empty(l.routes)) return { text: 'Draw the first route', tool: 'draw' }
  if (sheet.stage === 'cast' && empty(l.routes))
    return { text: 'Agents need something to follow: draw a route first', stage: 'routes' as const }
  if (sheet.stage === 'cast' && empty(l.spawners)) return { text: 'Place the first spawner', tool: 'spawner' }
  if (sheet.stage === 'rehearse' && empty(l.spawners))
    return { text: 'Nobody to rehearse with yet: place a spawner', stage: 'cast' as const }
  return undefined
})
const bareGround = computed(() => sheet.stage === 'ground' && hasBareGround(levels.doc))
const found = computed(() =>
  [...survey.findings, ...insight.findings]
    .map((finding, i) => ({ finding, number: i + 1 }))
    .filter(({ finding }) => finding.stage === sheet.stage || sheet.stage === 'sign-off'),
)
/** A stage without a finding is in order only as far as it has been checked. */
const NOTHING = { title: 'Nothing to mend here', words: 'The checks of this stage find nothing wrong.' }
const NO_FINDINGS = {
  known: { ...NOTHING, tone: 'text-pine' },
  renewed: { ...NOTHING, tone: 'text-pine' },
  begun: { title: 'Being checked', words: 'The checks of this stage are being run.', tone: 'text-faded' },
  stopped: { title: 'Not checked', words: 'The checks have stopped before they came to this.', tone: 'text-alarm' },
}
const none = computed(() => NO_FINDINGS[survey.standing])
/** Findings of other stages, whose signs the things of this one may carry. */
const elsewhere = computed(() => survey.findings.length + insight.findings.length - found.value.length)
/** A card with nothing to say is a line. */
const bare = computed(() => found.value.length === 0 && !first.value && !bareGround.value)
</script>

<template>
  <section
    v-if="bare"
    class="panel flex max-w-[282px] flex-wrap items-baseline gap-x-2 px-3 py-1 text-[13px]"
    aria-label="Left to do"
    :title="`${ABOUT[sheet.stage]} ${none.words}`"
  >
    <h2 class="text-[14px]" :class="none.tone">{{ none.title }}</h2>
    <span v-if="elsewhere > 0" class="text-faded">{{ elsewhere }} elsewhere</span>
    <span v-if="sheet.stage === 'rehearse' && rehearsal.hash" class="text-faded">
      recording <code data-testid="hash">{{ rehearsal.hash }}</code>
    </span>
  </section>
  <section v-else class="panel flex max-h-full w-[282px] flex-col" aria-label="Left to do">
    <header class="min-h-0 shrink-0 overflow-y-auto px-3 pt-2.5 pb-2" :class="bareGround ? 'shrink!' : ''">
      <p class="text-[13px] font-bold text-pine">{{ STAGE_NAMES[sheet.stage] }}</p>
      <h2 class="text-[19px]">
        {{ found.length > 0 ? 'Left to do here' : 'Where to begin' }}
      </h2>
      <p class="text-[13px] text-faded">{{ ABOUT[sheet.stage] }}</p>
      <GroundOffers v-if="bareGround" />
      <template v-else-if="first">
        <button v-if="first.tool" class="btn btn-main mt-2" @click="sheet.toolId = first.tool">{{ first.text }}</button>
        <button v-else-if="first.stage" class="btn mt-2 text-left" @click="sheet.stage = first.stage">
          {{ first.text }}
        </button>
        <button v-else-if="first.run" class="btn btn-main mt-2" @click="first.run()">{{ first.text }}</button>
      </template>
      <p v-if="sheet.stage === 'rehearse' && rehearsal.hash" class="mt-1 text-[13px] text-faded">
        Recording <code data-testid="hash">{{ rehearsal.hash }}</code>
      </p>
    </header>
    <ol v-if="found.length > 0" class="min-h-0 overflow-y-auto border-t border-rule">
      <li
        v-for="{ finding, number } in found.slice(0, MOST_LISTED)"
        :key="number"
        class="border-b border-rule px-3 py-2 last:border-b-0"
      >
        <p class="text-[13px]">
          <b :class="finding.severity === 'blocker' ? 'text-alarm' : 'text-ochre'">{{ number }}</b>
          {{ finding.message }}
        </p>
        <div class="mt-1 flex flex-wrap gap-2">
          <WaysOut :finding />
          <button class="btn-quiet" @click="(sheet.choose([finding.subjects[0]]), requestPlace(finding.at))">
            Show
          </button>
        </div>
      </li>
      <li v-if="found.length > MOST_LISTED" class="px-3 py-2 text-[13px] text-faded">
        and {{ (found.length - MOST_LISTED).toLocaleString('en') }} more, in the drawer
      </li>
    </ol>
  </section>
</template>
