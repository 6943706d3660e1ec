<script setup lang="ts">
import { addThing, nameOf, passageSchema } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../../kinds/card/CardFrame.vue'
import { requestPlace } from '../../map/zoom-wish'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { passageOf } from '../../kinds/passage/suggestion'
import { metres } from '../../ui/figures'

const props = defineProps<{ number: number }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const island = computed(() => survey.reach.get(survey.profileId ?? '')?.islands[props.number])
const facts = computed(() => survey.islandFacts[props.number])
const title = (n: number) => (n === 0 ? 'Main island' : `Island ${n + 1}`)

/** A passage across the nearest gap: a ladder where it is high, else a jump. */
function bridge() {
  const gap = facts.value?.gap
  if (!gap) return
  const kind = Math.abs(gap.riseM) > 0.6 ? 'ladder' : 'jump'
  const ends = { from: gap.fromAt, to: gap.toAt, twoWay: true, takesS: 1 }
  const thing = passageSchema.parse(
    passageOf(levels.doc, { kind, ...ends, islands: [gap.from, gap.to], widthM: gap.widthM, riseM: gap.riseM }),
  )
  const id = randomId('passages')
  levels.perform(addThing, { in: 'passages', id, thing })
  sheet.choose([id])
}
</script>

<template>
  <CardFrame kind="island" :name="title(number)" fixed tone="text-pine" :subjects="[]">
    <p v-if="!island" class="text-faded">This island is gone.</p>
    <template v-else>
      <p>{{ island.areaM2.toFixed(1) }} m² for {{ levels.doc.profiles[survey.profileId ?? '']?.name }}.</p>
      <template v-if="facts?.gap">
        <p class="mt-2 label">nearest to</p>
        <p>
          <b>{{ title(facts.gap.to) }}</b>: {{ metres(facts.gap.widthM) }} across,
          {{
            Math.abs(facts.gap.riseM) < 0.01
              ? 'level'
              : `${facts.gap.riseM > 0 ? 'up' : 'down'} ${metres(Math.abs(facts.gap.riseM))}`
          }}
        </p>
        <div class="mt-1 flex gap-2">
          <button class="btn" @click="requestPlace(facts.gap.fromAt)">Show the gap</button>
          <button class="btn" @click="bridge">Bridge it</button>
        </div>
      </template>
      <p class="mt-2 label">on it</p>
      <ul v-if="facts?.users.length">
        <li v-for="u in facts.users" :key="u">
          <button class="underline decoration-rule underline-offset-2" @click="sheet.choose([u])">
            {{ nameOf(levels.doc, u) }}
          </button>
        </li>
      </ul>
      <p v-else class="text-[13px] text-faded">No route or spawner of this profile.</p>
    </template>
  </CardFrame>
</template>
