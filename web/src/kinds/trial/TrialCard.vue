<script setup lang="ts">
import { trialWords, type Wish } from '@tidytrail/core/insight'
import { computed } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useRehearsalStore } from '../../stores/rehearsal'
import { clock } from '../../ui/figures'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import WidenPanel from '../watch-spot/WidenPanel.vue'

/** A trial: a statement made of choices, what came of it, and where it fails the moment of that. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: trial, things, set, setField, release, remove } = useThing('trials', () => props.id)
const insight = useInsightStore()
const rehearsal = useRehearsalStore()
const result = computed(() => insight.results.get(props.id))
const words = computed(() => trialWords(levels.doc, trial.value))
/** The window it is about, where it is about one and fails. */
const wish = computed<Wish | undefined>(() => {
  const { kind, spotId, lineId, windowS } = trial.value
  if (result.value?.holds !== false) return undefined
  if (kind === 'spot' && spotId) return { in: 'watchSpots', id: spotId, wantedS: windowS, trialId: props.id }
  if (kind === 'line' && lineId) return { in: 'sneakLines', id: lineId, wantedS: windowS, trialId: props.id }
  return undefined
})
const about = computed(() => trial.value.spotId ?? trial.value.lineId ?? trial.value.zoneId ?? trial.value.markerId)

function go(): void {
  const { momentS, keys } = result.value!
  rehearsal.playing = false
  rehearsal.seek(momentS!)
  const agent = rehearsal.agents.find((a) => a.key === keys[0])
  if (agent) sheet.choose([agent.id])
}
const TONE = { true: 'border-pine', false: 'border-alarm', undefined: 'border-rule' } as const
const STATE = { true: 'It holds.', false: 'It fails.', undefined: 'It cannot be told.' } as const
</script>

<template>
  <CardFrame kind="trial" :name="trial.name || 'Trial'" tone="text-pine" :subjects="[]" @rename="set({ name: $event })">
    <p class="mb-2 text-[15px]" data-testid="trial-words">{{ words }}</p>
    <div
      v-if="result"
      class="mb-2 border-l-4 bg-tint px-2 py-1"
      :class="TONE[`${result.holds}`]"
      data-testid="trial-result"
    >
      <p class="font-bold">{{ STATE[`${result.holds}`] }}</p>
      <p class="text-[13px]">{{ result.words }}</p>
      <button v-if="result.momentS !== undefined" class="btn mt-1" @click="go">
        Go to {{ clock(result.momentS) }}
      </button>
    </div>
    <p v-else class="mb-2 text-faded">
      {{ trial.off ? 'It is not looked at.' : rehearsal.begun ? 'Looking …' : 'Rehearse, to see whether it holds.' }}
    </p>
    <WidenPanel v-if="wish" :wish="wish" :longest-s="undefined" />
    <fieldset class="mt-2 border-t border-rule pt-1">
      <ThingFields in="trials" :things="things" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button v-if="about && levels.level" class="btn" @click="sheet.choose([about])">Open what it is about</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
