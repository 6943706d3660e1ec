<script setup lang="ts">
import { FROM_CHECKS, PROOFS, proofSheet, type Proof, type ProofCell } from '@tidytrail/core/checks'
import { trialWords } from '@tidytrail/core/insight'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import AskDialog from '../../ui/AskDialog.vue'

/** The sheet of proofs: routes and agents against what must be so, each cell a click from its evidence; printable. */
defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()
const survey = useSurveyStore()
const insight = useInsightStore()
const sheet = useSheetStore()

const NAMES: Record<Proof, string> = {
  connects: 'connects',
  reachable: 'reachable',
  travels: 'can travel it',
  followed: 'followed',
  pauses: 'pauses kept',
  stuck: 'never stuck',
  overlaps: 'never in others',
}
const rows = computed(() =>
  proofSheet(levels.doc, survey.findings, rehearsal.lastVerdicts(), rehearsal.begun ? rehearsal.recorded : undefined),
)
/** Was what was rehearsed another level than this is now? */
const old = computed(() => rehearsal.begun && (rehearsal.stale || rehearsal.changes > 0))
const grey = (proof: Proof) => (FROM_CHECKS.has(proof) ? !survey.upToDate : old.value)
const SIGN = { true: '✓', false: '✗', undefined: '–' } as const
const WORD = { true: 'yes', false: 'no', undefined: 'not tried' } as const
const TONE = { true: 'text-pine', false: 'text-alarm font-bold', undefined: 'text-faded' } as const
const trials = computed(() =>
  [...insight.results.values()].flatMap((t) => {
    const trial = levels.doc.trials[t.trialId]
    return trial ? [{ ...t, says: trialWords(levels.doc, trial) }] : []
  }),
)

function show(row: { id: string; kind: string }, cell: ProofCell): void {
  if (cell.momentS !== undefined) {
    sheet.stage = 'rehearse'
    rehearsal.playing = false
    rehearsal.seek(cell.momentS)
    sheet.choose([row.id])
  } else sheet.choose(cell.subjects.length > 0 ? [cell.subjects[0]] : [row.id])
  emit('close')
}
const print = () => window.print()
const today = new Date().toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
</script>

<template>
  <AskDialog :open="open" wide :title="`${levels.doc.name}: the sheet`" @close="emit('close')">
    <div class="text-[13px]">
      <p class="mt-1 text-faded">
        Revision {{ levels.revision }}, {{ today }}.
        <template v-if="rehearsal.begun"
          >Rehearsed with seed {{ rehearsal.seed }}, recording {{ rehearsal.hash || '…' }}.</template
        >
        <template v-else>Nothing was rehearsed: what needs it is open.</template>
        <b v-if="old" class="text-ochre"> The level has changed since it was rehearsed.</b>
      </p>
      <p v-if="rows.length === 0" class="mt-3 text-faded">
        {{
          rehearsal.begun
            ? 'Nobody is told to follow a route.'
            : 'Rehearse first: then every route and agent is listed here.'
        }}
      </p>
      <table v-else class="mt-2 w-full border-collapse" data-testid="proofs">
        <thead>
          <tr class="text-left text-faded">
            <th class="font-normal">route, agent</th>
            <th v-for="p in PROOFS" :key="p" class="px-1 text-center font-normal">{{ NAMES[p] }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in rows" :key="`${row.kind} ${row.id}`" class="border-t border-rule">
            <th class="text-left" :class="row.kind === 'route' ? '' : 'pl-4 font-normal'">{{ row.name }}</th>
            <td v-for="p in PROOFS" :key="p" class="text-center" :class="grey(p) ? 'opacity-40' : ''">
              <button
                class="px-2"
                :class="TONE[`${row.cells[p].holds}`]"
                :title="`${row.cells[p].words}${grey(p) ? ' (the level has changed since)' : ''}`"
                :aria-label="`${row.name}, ${NAMES[p]}: ${WORD[`${row.cells[p].holds}`]}, ${row.cells[p].words}`"
                @click="show(row, row.cells[p])"
              >
                {{ SIGN[`${row.cells[p].holds}`] }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="trials.length > 0" class="mt-3 border-t border-rule pt-2">
        <h3 class="text-[15px]">Trials</h3>
        <p v-for="t in trials" :key="t.trialId">
          <span :class="TONE[`${t.holds}`]">{{ SIGN[`${t.holds}`] }} {{ WORD[`${t.holds}`] }}</span> {{ t.says }}
          <span class="text-faded">{{ t.words }}</span>
        </p>
      </div>
    </div>
    <div class="mt-4 flex gap-2 print:hidden">
      <button class="btn btn-main" @click="print">Print</button>
      <button class="btn" @click="emit('close')">Close</button>
    </div>
  </AskDialog>
</template>
