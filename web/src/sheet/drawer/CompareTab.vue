<script setup lang="ts">
import { writeRunFile } from '@tidytrail/core/rehearsal'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useKeptStore } from '../../stores/kept'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import type { PastRun } from '../../stores/runs-beside'
import { useSeedsStore } from '../../stores/seeds'
import { useSheetStore } from '../../stores/sheet'
import { downloadBytes } from '../../ui/download'
import { ago, bytes, clock, count } from '../../ui/figures'
import type { Comparison } from '../../workers/insight.protocol'

/** What is kept of rehearsals, and how the one on the sheet differs from another. */
const rehearsal = useRehearsalStore()
const insight = useInsightStore()
const levels = useLevelStore()
const kept = useKeptStore()
const seeds = useSeedsStore()
const sheet = useSheetStore()
onMounted(() => void kept.refresh())

const name = ref('')
const ready = computed(() => rehearsal.begun && rehearsal.hash !== '' && !rehearsal.kept)
async function keep(): Promise<void> {
  await kept.keep(name.value.trim() || `${rehearsal.nameNow()}, revision ${levels.revision}`)
  name.value = ''
}
function saveFile(): void {
  const file = kept.fileNow(rehearsal.nameNow())
  if (file) downloadBytes(`${levels.doc.name} ${file.name}.tidytrail-run.zip`, writeRunFile(file), 'application/zip')
}

const other = shallowRef<PastRun>()
const comparison = shallowRef<Comparison>()
const looking = ref(false)
async function compareWith(run: PastRun): Promise<void> {
  other.value = run
  comparison.value = undefined
  looking.value = true
  const chance = seeds.current ? seeds.runs : []
  comparison.value = await insight.compare(run.copy, run.hash, chance)
  looking.value = false
  if (comparison.value) rehearsal.showGhosts(run.copy, comparison.value.parting.firstS ?? Infinity)
}
async function compareKept(id: string): Promise<void> {
  const file = await kept.fetchFile(id)
  if (file) await compareWith({ name: file.name, copy: file, hash: file.hash })
}
// Another run than the one compared with the other: it is asked again.
watch(
  () => rehearsal.hash,
  (hash) => {
    if (!hash || !other.value) return
    if (other.value.hash !== hash) void compareWith(other.value)
    else other.value = comparison.value = undefined
  },
)
const round = (v: number | undefined) => (v === undefined ? '–' : String(+v.toFixed(Math.abs(v) < 10 ? 2 : 1)))
const figures = computed(() =>
  [...(comparison.value?.figures ?? [])].sort(
    (a, b) => +(Math.abs(b.difference ?? 0) > 1e-9) - +(Math.abs(a.difference ?? 0) > 1e-9),
  ),
)
const nameOf = (id: string) => rehearsal.agents[rehearsal.placeOf(id)]?.name ?? id
function goTo(at: number, id?: string): void {
  rehearsal.playing = false
  rehearsal.seek(at)
  if (id) sheet.choose([id])
}
/** Is a difference more than chance alone makes of it in nineteen of twenty cases? */
const telling = (c: (typeof figures.value)[number]) =>
  c.byChance === undefined || c.difference === undefined ? undefined : Math.abs(c.difference) > 2 * c.byChance
</script>

<template>
  <div class="flex min-h-0 flex-1 gap-4 px-3 pb-2 text-[12.5px]">
    <div class="flex w-72 shrink-0 flex-col gap-1.5">
      <p v-if="rehearsal.kept" class="border-l-4 border-ochre bg-tint px-2 py-1" data-testid="shown-kept">
        Shown as it was kept: <b>{{ rehearsal.kept.name }}</b>.
        <template v-if="rehearsal.stale">The level has changed since.</template>
        <button class="btn mt-1" @click="rehearsal.begin(rehearsal.seed)">Run it anew on the level as it is</button>
      </p>
      <form v-else class="flex items-end gap-1.5" @submit.prevent="keep">
        <label class="min-w-0 flex-1">
          <span class="label">keep this rehearsal as</span>
          <input
            v-model="name"
            class="field"
            maxlength="200"
            :placeholder="`${rehearsal.nameNow()}, revision ${levels.revision}`"
          />
        </label>
        <button
          class="btn btn-main"
          :disabled="!ready || kept.sent >= 0"
          title="In the database, with its recording and verdicts"
        >
          {{ kept.sent >= 0 ? `${Math.round(100 * kept.sent)} %` : 'Keep' }}
        </button>
        <button type="button" class="btn" :disabled="!rehearsal.hash" @click="saveFile">As file</button>
      </form>
      <p v-if="kept.fault" class="text-alarm">{{ kept.fault }}</p>
      <p v-else-if="kept.list?.length === 0" class="text-faded">None is kept yet.</p>
      <ul class="min-h-0 flex-1 overflow-y-auto" data-testid="kept-list">
        <li v-for="r in kept.list" :key="r.id" class="border-t border-rule py-1">
          <p class="truncate" :title="r.name">
            <b>{{ r.name }}</b>
            <span class="text-faded">
              seed {{ r.seed }} · {{ bytes(r.bytes) }} · {{ ago(Date.now() - Date.parse(r.createdAt)) }}</span
            >
          </p>
          <p class="flex items-center gap-1.5">
            <span :class="r.verdicts.fails + r.trials.fails > 0 ? 'text-alarm' : 'text-pine'">
              {{ r.verdicts.follows + r.verdicts.remarks }} follow{{
                r.verdicts.fails > 0 ? `, ${r.verdicts.fails} do not` : ''
              }}{{ r.trials.fails > 0 ? `, ${count(r.trials.fails, 'trial fails', 'trials fail')}` : '' }}
            </span>
            <button class="btn ml-auto px-1.5! text-[12px]!" :disabled="kept.opening !== ''" @click="kept.open(r.id)">
              Open
            </button>
            <button
              class="btn px-1.5! text-[12px]!"
              :disabled="!rehearsal.hash || kept.opening !== ''"
              @click="compareKept(r.id)"
            >
              Compare
            </button>
            <button
              class="btn-quiet text-[12px]! text-alarm!"
              :aria-label="`Throw ${r.name} away`"
              @click="kept.remove(r.id)"
            >
              ×
            </button>
          </p>
        </li>
      </ul>
    </div>
    <div class="flex min-w-0 flex-1 flex-col">
      <div class="mb-1 flex flex-wrap items-center gap-2">
        <button v-if="rehearsal.past && rehearsal.hash" class="btn" @click="compareWith(rehearsal.past)">
          Compare with the run before ({{ rehearsal.past.name }})
        </button>
        <p v-if="other" class="text-faded" data-testid="parting">
          <template v-if="looking">Looking …</template>
          <template v-else-if="comparison && comparison.parting.firstS === undefined">
            {{ other.name }} and this one are the same to the last step.
          </template>
          <template v-else-if="comparison">
            They part at
            <button class="underline" @click="goTo(comparison.parting.firstS!, comparison.parting.agents[0]?.id)">
              {{ clock(comparison.parting.firstS!) }}</button><template v-if="comparison.parting.agents[0]"
              >, {{ nameOf(comparison.parting.agents[0].id) }} first</template
            >; {{ comparison.parting.agents.length }} in both go other ways. The other is drawn dotted.
          </template>
        </p>
        <p v-else-if="!rehearsal.past" class="text-faded">
          Rehearse twice, or keep one: then they can be laid side by side.
        </p>
      </div>
      <div v-if="comparison && other" class="min-h-0 flex-1 overflow-y-auto">
        <table class="w-full border-collapse" data-testid="comparison">
          <thead class="sticky top-0 bg-sheet text-left text-faded">
            <tr>
              <th class="font-normal">figure</th>
              <th class="max-w-24 truncate text-right font-normal">{{ other.name }}</th>
              <th class="text-right font-normal">this one</th>
              <th class="text-right font-normal">difference</th>
              <th
                class="text-right font-normal"
                title="How much two runs of this level differ by chance alone, in two of three cases"
              >
                by chance
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in figures" :key="c.name" class="border-t border-rule">
              <td>{{ c.name }}{{ c.unit ? `, ${c.unit}` : '' }}</td>
              <td class="text-right">{{ round(c.a) }}</td>
              <td class="text-right">{{ round(c.b) }}</td>
              <td class="text-right" :class="c.difference ? 'font-bold' : 'text-faded'">
                {{ c.difference && c.difference > 0 ? '+' : '' }}{{ round(c.difference) }}
                <span v-if="telling(c)" class="font-normal text-ochre">more than chance</span>
              </td>
              <td class="text-right text-faded">{{ c.byChance === undefined ? '' : `± ${round(c.byChance)}` }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="figures.some((c) => c.byChance === undefined)" class="mt-1 text-faded">
          What chance alone makes of them is told once many seeds have been rehearsed (Seeds).
        </p>
      </div>
    </div>
  </div>
</template>
