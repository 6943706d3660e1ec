<script setup lang="ts">
import {
  IconChevronDown,
  IconPlayerPause,
  IconPlayerPlay,
  IconPlayerSkipForward,
  IconRotateClockwise,
  IconPlayerSkipBack,
} from '@tabler/icons-vue'
import type { Finding } from '@tidytrail/core/checks'
import { nameOf, removeThings } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import { useRehearsalStore } from '../../stores/rehearsal'
import { STAGE_NAMES, useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { ago, clock } from '../../ui/figures'
import ElevationView from './ElevationView.vue'
import { endPreview, mend, mendAll, previewFix } from '../../findings/mend'
import { requestPlace } from '../../map/zoom-wish'

const sheet = useSheetStore()
const survey = useSurveyStore()
const levels = useLevelStore()
const rehearsal = useRehearsalStore()

/** The route whose side view is shown: that of the choice. */
const profiled = computed(() => {
  const level = levels.level
  if (!level) return undefined
  for (const id of sheet.selected) {
    const routeId = level.routes[id] ? id : Object.keys(level.routes).find((r) => level.routes[r].stops[id])
    if (routeId && level.routes[routeId].kind !== 'network') return routeId
  }
  return undefined
})
const waivers = computed(() => Object.entries(levels.level?.waivers ?? {}))
const fixable = computed(() => {
  const counts = new Map<string, number>()
  for (const f of survey.findings) if (f.fix) counts.set(f.check, (counts.get(f.check) ?? 0) + 1)
  return counts
})
/** How many findings of the same check can be mended. */
const sameKind = (f: Finding) => fixable.value.get(f.check) ?? 0
/** More findings than this are not listed one by one. */
const MOST_LISTED = 300
const tabs = computed(() => [
  ...(sheet.stage === 'rehearse' ? [{ id: 'run', name: 'Run' }] : []),
  ...(profiled.value ? [{ id: 'profile', name: 'Side view' }] : []),
  { id: 'findings', name: `Findings ${survey.findings.length}` },
  ...(waivers.value.length > 0 ? [{ id: 'waived', name: `Waived ${waivers.value.length}` }] : []),
  { id: 'log', name: 'Changes' },
])
/** Open when somebody wants it open and there is something in it. */
const open = computed(() => sheet.panels.drawer && !(tab.value === 'findings' && survey.findings.length === 0))
const tab = computed(() => (tabs.value.some((t) => t.id === sheet.drawerTab) ? sheet.drawerTab : tabs.value[0].id))
const log = computed(() => [...levels.steps.past].reverse().slice(0, 60))
/** Moments when somebody arrived somewhere, as ticks on the time line. */
const ticks = computed(() =>
  Object.values(rehearsal.events)
    .flat()
    .filter((e) => e.kind === 'blocked' || e.kind === 'finished')
    .map((e) => ({ share: e.t / rehearsal.seconds, bad: e.kind === 'blocked' })),
)
</script>

<template>
  <section
    class="panel flex flex-col"
    :class="open ? (tab === 'run' ? 'h-[126px]' : tab === 'profile' ? 'h-[186px]' : 'max-h-[148px]') : ''"
    aria-label="Drawer"
  >
    <header class="flex items-center gap-4 px-3 pt-2 pb-1.5">
      <h2 class="text-[15px]">
        {{
          tab === 'run'
            ? 'Rehearsal'
            : tab === 'profile'
              ? `${levels.doc.routes[profiled!].name} from the side`
              : tab === 'log'
                ? 'Changes'
                : survey.findings.length > 0
                  ? 'Findings'
                  : survey.upToDate
                    ? 'The checks find nothing wrong'
                    : 'The checks are being run'
        }}
      </h2>
      <div class="ml-auto flex gap-4">
        <div class="flex gap-4" role="tablist" aria-label="What the drawer shows">
          <button
            v-for="t in tabs"
            :key="t.id"
            role="tab"
            :aria-selected="tab === t.id"
            :class="tab === t.id ? 'font-bold underline underline-offset-4' : 'text-faded'"
            @click="((sheet.drawerTab = t.id), (sheet.panels.drawer = true))"
          >
            {{ t.name }}
          </button>
        </div>
        <button
          class="btn-quiet px-0!"
          :aria-label="sheet.panels.drawer ? 'Fold the drawer' : 'Open the drawer'"
          :title="sheet.panels.drawer ? 'Fold the drawer' : 'Open the drawer'"
          :aria-expanded="sheet.panels.drawer"
          @click="sheet.panels.drawer = !sheet.panels.drawer"
        >
          <IconChevronDown :size="17" :class="sheet.panels.drawer ? '' : 'rotate-180'" />
        </button>
      </div>
    </header>

    <div v-if="open && tab === 'run'" class="flex min-h-0 flex-1 flex-col justify-center gap-2 px-3 pb-2">
      <div class="relative">
        <div class="pointer-events-none absolute inset-x-0 top-[5px] h-[7px] border border-ink">
          <div
            class="h-full bg-rule"
            :style="{ width: `${(100 * rehearsal.recordedS) / (rehearsal.seconds || 1)}%` }"
          />
          <span
            v-for="(k, i) in ticks"
            :key="i"
            class="absolute -top-1 h-[13px] w-[2px]"
            :class="k.bad ? 'bg-alarm' : 'bg-pine'"
            :style="{ left: `${100 * k.share}%` }"
          />
        </div>
        <input
          class="relative w-full accent-rust"
          type="range"
          min="0"
          :max="rehearsal.seconds || 1"
          step="0.1"
          :value="rehearsal.t"
          :disabled="!rehearsal.begun"
          aria-label="Time in the rehearsal"
          @input="rehearsal.seek(Number(($event.target as HTMLInputElement).value))"
        />
        <div class="flex justify-between text-[11.5px] text-faded">
          <span>0:00</span><span>{{ clock(rehearsal.seconds / 2) }}</span
          ><span>{{ clock(rehearsal.seconds) }}</span>
        </div>
      </div>
      <div class="flex flex-wrap items-center gap-2">
        <button
          class="btn"
          :disabled="!rehearsal.begun"
          title="Back to the start (Home)"
          aria-label="Back to the start"
          @click="rehearsal.seek(0)"
        >
          <IconPlayerSkipBack :size="15" />
        </button>
        <button
          class="btn btn-main w-[86px] justify-center"
          :disabled="!rehearsal.begun"
          title="Run or pause (K)"
          @click="rehearsal.playOrPause()"
        >
          <component :is="rehearsal.playing ? IconPlayerPause : IconPlayerPlay" :size="15" />{{
            rehearsal.playing ? 'Pause' : 'Run'
          }}
        </button>
        <button class="btn" :disabled="!rehearsal.begun" title="One step on (.)" @click="rehearsal.stepBy(1)">
          <IconPlayerSkipForward :size="15" />Step
        </button>
        <button class="btn" :disabled="!rehearsal.begun" title="Slower (J)" @click="rehearsal.faster(-1)">
          Slower
        </button>
        <span class="w-10 text-center font-bold" aria-label="Speed of the rehearsal">×{{ rehearsal.speed }}</span>
        <button class="btn" :disabled="!rehearsal.begun" title="Faster (L)" @click="rehearsal.faster(1)">Faster</button>
        <button
          class="btn"
          :disabled="!rehearsal.begun"
          title="Again with the same seed (R)"
          aria-label="Again with the same seed"
          @click="rehearsal.begin(rehearsal.seed)"
        >
          <IconRotateClockwise :size="15" />
        </button>
        <span class="ml-auto text-[13px]" data-testid="clock">
          {{ clock(rehearsal.t) }} of {{ clock(rehearsal.seconds)
          }}<span v-if="rehearsal.running" class="text-lake"> · rehearsed to {{ clock(rehearsal.recordedS) }}</span>
        </span>
      </div>
    </div>

    <ElevationView v-else-if="open && tab === 'profile' && profiled" :route-id="profiled" />

    <div v-else-if="open && tab === 'findings'" class="min-h-0 flex-1 overflow-y-auto border-t border-rule">
      <table class="w-full text-[13px]">
        <tbody>
          <tr
            v-for="(f, i) in survey.findings.slice(0, MOST_LISTED)"
            :key="`${f.check} ${f.subjects.join()} ${i}`"
            class="cursor-pointer border-b border-rule last:border-b-0 hover:bg-tint"
            :class="f.subjects.some((s) => sheet.selected.includes(s)) ? 'bg-tint' : ''"
            tabindex="0"
            @click="(sheet.choose([f.subjects[0]]), requestPlace(f.at))"
            @keydown.enter="(sheet.choose([f.subjects[0]]), requestPlace(f.at))"
          >
            <td
              class="w-[88px] py-1 pl-3 font-bold whitespace-nowrap"
              :class="f.severity === 'blocker' ? 'text-alarm' : f.severity === 'warning' ? 'text-ochre' : 'text-lake'"
            >
              {{ i + 1 }} {{ f.severity }}
            </td>
            <td class="w-[62px] py-1 text-faded">{{ STAGE_NAMES[f.stage] }}</td>
            <td class="py-1" :title="f.check">{{ f.message }}</td>
            <td class="py-1 pr-2 text-right">
              <button
                v-if="f.fix && sameKind(f) > 1"
                class="btn-quiet py-0! text-[12.5px]"
                :title="`Mend all ${sameKind(f)} of ${f.check} at once`"
                @click.stop="mendAll(survey.findings.filter((o) => o.check === f.check))"
              >
                all {{ sameKind(f) }}
              </button>
              <button
                v-if="f.fix"
                class="btn max-w-[200px] min-h-0! truncate py-0! text-[12.5px]"
                :title="f.fix.label"
                @mouseenter="previewFix(f)"
                @mouseleave="endPreview()"
                @click.stop="mend(f)"
              >
                Mend
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>

    <table v-else-if="open && tab === 'waived'" class="w-full border-t border-rule text-[13px]">
      <tbody>
        <tr v-for="[id, w] in waivers" :key="id" class="border-b border-rule last:border-b-0">
          <td class="w-[170px] py-1 pl-3 font-bold">{{ w.check }}</td>
          <td class="py-1">{{ w.subjects.map((s) => nameOf(levels.doc, s)).join(', ') }}: {{ w.reason }}</td>
          <td class="py-1 pr-2 text-right">
            <button class="btn-quiet py-0!" @click="levels.perform(removeThings, { ids: [id] })">Take back</button>
          </td>
        </tr>
      </tbody>
    </table>

    <ol v-else-if="open" class="min-h-0 flex-1 overflow-y-auto border-t border-rule px-3 py-1 text-[13px]">
      <li v-if="log.length === 0" class="text-faded">Nothing has been changed since this level was opened.</li>
      <li v-for="(e, i) in log" :key="e.at + e.label" class="flex gap-3 py-0.5">
        <span class="flex-1">{{ e.label }}</span><span class="text-faded">{{ ago(Date.now() - e.at) }}</span>
        <button v-if="i === 0" class="btn-quiet py-0!" @click="levels.undo()">Undo</button>
      </li>
    </ol>
  </section>
</template>
