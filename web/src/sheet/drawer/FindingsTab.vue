<script setup lang="ts">
import type { Finding, RunFinding } from '@tidytrail/core/checks'
import { computed, ref, watch } from 'vue'
import { endPreview, mend, mendAll, previewFix } from '../../findings/mend'
import { clock } from '../../ui/figures'
import { requestPlace } from '../../map/zoom-wish'
import { STAGE_NAMES, useSheetStore } from '../../stores/sheet'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { useSurveyStore } from '../../stores/survey'

const sheet = useSheetStore()
const rehearsal = useRehearsalStore()
const insight = useInsightStore()
const survey = useSurveyStore()

/** More findings than this are not listed one by one. */
const MOST_LISTED = 300

/** How many findings of the same check can be mended. */
const sameKind = (f: Finding) => survey.fixable.get(f.check) ?? 0
/** Those of the level, then those of the rehearsal at the moment looked at. */
const all = computed<readonly (Finding | RunFinding)[]>(() => [...survey.findings, ...insight.findings])
const frame = ref<HTMLElement>()
/** What is chosen elsewhere, such as by a sign on the map, comes into view. */
watch(
  () => sheet.selected,
  () => frame.value?.querySelector('[data-chosen=true]')?.scrollIntoView({ block: 'nearest' }),
  { flush: 'post' },
)
function look(f: Finding | RunFinding) {
  if ('moment' in f) rehearsal.seek(f.moment)
  sheet.choose([f.subjects[0]])
  requestPlace(f.at)
}
</script>

<template>
  <div ref="frame" class="min-h-0 flex-1 overflow-y-auto border-t border-rule">
    <table class="w-full text-[13px]">
      <tbody>
        <tr
          v-for="(f, i) in all.slice(0, MOST_LISTED)"
          :key="`${f.check} ${f.subjects.join()} ${i}`"
          class="cursor-pointer border-b border-rule last:border-b-0 hover:bg-tint"
          :class="f.subjects.some((s) => sheet.selected.includes(s)) ? 'bg-tint' : ''"
          :data-chosen="f.subjects.some((s) => sheet.selected.includes(s))"
          tabindex="0"
          @click="look(f)"
          @keydown.enter="look(f)"
        >
          <td
            class="w-[88px] py-1 pl-3 font-bold whitespace-nowrap"
            :class="f.severity === 'blocker' ? 'text-alarm' : f.severity === 'warning' ? 'text-ochre' : 'text-lake'"
          >
            {{ i + 1 }} {{ f.severity }}
          </td>
          <td class="w-[62px] py-1 text-faded">{{ STAGE_NAMES[f.stage] }}</td>
          <td class="py-1" :title="f.check">
            {{ f.message }}<span v-if="'moment' in f" class="text-faded"> at {{ clock(f.moment) }}</span>
          </td>
          <td class="py-1 pr-2 text-right">
            <button
              v-if="survey.offersOf(f).length > 0 && sameKind(f) > 1"
              class="btn-quiet py-0! text-[12.5px]"
              :title="`Mend all ${sameKind(f)} of ${f.check} at once`"
              @click.stop="mendAll(survey.findings.filter((o) => o.check === f.check))"
            >
              all {{ sameKind(f) }}
            </button>
            <button
              v-for="fix in survey.offersOf(f).slice(0, 1)"
              :key="fix.label"
              class="btn max-w-[200px] min-h-0! truncate py-0! text-[12.5px]"
              :title="fix.label"
              @mouseenter="previewFix(fix)"
              @mouseleave="endPreview()"
              @click.stop="mend(f, fix)"
            >
              Mend
            </button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
