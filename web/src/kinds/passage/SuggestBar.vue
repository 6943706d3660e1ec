<script setup lang="ts">
import { addThings, passageSchema } from '@tidytrail/core/level'
import { computed, ref } from 'vue'
import type { Suggestion } from '@tidytrail/core/reach'
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
const needed = computed(() => survey.suggestions.filter((s) => s.needed))

async function suggest() {
  looking.value = true
  const found = await survey.suggest()
  looking.value = false
  const name = levels.doc.profiles[survey.profileId ?? '']?.name ?? 'Nobody'
  if (found === 0) toast(`${name} finds no place where a passage would help.`)
  else sheet.toolId = 'choose'
}

function accept(list: readonly Suggestion[]) {
  const taken: string[] = []
  const things = list.map((s) => {
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
      {{ count(survey.suggestions.length, 'passage') }} could be{{
        needed.length > 0 ? `, ${needed.length} of them where a route leads and no way does` : ''
      }}. Click one on the map to take it.
    </p>
    <button v-if="needed.length > 0" class="btn btn-main" @click="accept(needed)">
      Take the {{ needed.length }} needed
    </button>
    <button class="btn" :class="needed.length > 0 ? '' : 'btn-main'" @click="accept(survey.suggestions)">
      Take all {{ survey.suggestions.length }}
    </button>
    <button class="btn" @click="survey.suggestions = []">None</button>
  </template>
  <button v-else class="btn btn-main" :disabled="looking" @click="suggest">
    {{ looking ? 'Looking …' : 'Suggest passages' }}
  </button>
</template>
