<script setup lang="ts">
import { addThings, passageSchema } from '@tidytrail/core/level'
import { ref } from 'vue'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { passageOf } from './suggestion'
import { count } from '../../ui/figures'
import { toast } from '../../ui/toasts'

const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const looking = ref(false)

async function suggest() {
  looking.value = true
  const found = await survey.suggest()
  looking.value = false
  const name = levels.doc.profiles[survey.profileId ?? '']?.name ?? 'Nobody'
  if (found === 0) toast(`${name} finds no place to jump or drop from one island to another.`)
  else sheet.toolId = 'choose'
}

function acceptAll() {
  const taken: string[] = []
  const things = survey.suggestions.map((s) => {
    const thing = passageSchema.parse(passageOf(levels.doc, s, taken))
    taken.push(thing.name)
    return { in: 'passages' as const, id: randomId('passages'), thing }
  })
  levels.perform(addThings, { things, label: `Add ${count(things.length, 'suggested passage')}` })
  survey.suggestions = []
}
</script>

<template>
  <template v-if="survey.suggestions.length > 0">
    <p class="w-full text-[13px] text-faded">
      {{ count(survey.suggestions.length, 'passage') }} could be. Click one on the map to take it.
    </p>
    <button class="btn btn-main" @click="acceptAll">Take all {{ survey.suggestions.length }}</button>
    <button class="btn" @click="survey.suggestions = []">None</button>
  </template>
  <button v-else class="btn btn-main" :disabled="looking" @click="suggest">
    {{ looking ? 'Looking …' : 'Suggest jumps and drops' }}
  </button>
</template>
