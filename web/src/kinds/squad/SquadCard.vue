<script setup lang="ts">
import { nameOf, setThings } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useRehearsalStore } from '../../stores/rehearsal'
import { holdingOf } from './holding'
import { sentencesOf } from '../brief/sentences'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import { compareNames } from '../../ui/names'

/** A squad: what its spawners share, who is in it, and who of them holds which post just now. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: squad, things, set, setField, release, remove } = useThing('squads', () => props.id)
const rehearsal = useRehearsalStore()

const members = computed(() =>
  Object.keys(levels.doc.spawners).filter((s) => levels.doc.spawners[s].squadId === props.id),
)
const others = computed(() =>
  Object.entries(levels.doc.spawners)
    .filter(([, s]) => s.squadId !== props.id)
    .sort(([, a], [, b]) => compareNames(a.name, b.name)),
)
const sentences = computed(() => sentencesOf(levels.doc, squad.value.briefId))
const posts = computed(() =>
  Object.entries(levels.doc.posts)
    .filter(([, p]) => squad.value.zoneId !== null && p.zoneId === squad.value.zoneId)
    .sort(([, a], [, b]) => b.worth - a.worth),
)
/** Who holds which post at the moment looked at, and who waits for one. */
const holders = computed(() => (rehearsal.begun ? holdingOf(rehearsal, members.value) : undefined))

function join(event: Event): void {
  const select = event.target as HTMLSelectElement
  if (!select.value) return
  levels.perform(setThings, {
    things: [{ in: 'spawners', id: select.value, set: { squadId: props.id } }],
    word: 'Take into a squad',
  })
  select.value = ''
}
const leaveIt = (id: string) =>
  levels.perform(setThings, { things: [{ in: 'spawners', id, set: { squadId: null } }], word: 'Take out of a squad' })
</script>

<template>
  <CardFrame kind="squad" :name="squad.name" tone="text-ink" :locked="squad.locked" @rename="set({ name: $event })">
    <fieldset :disabled="squad.locked">
      <ThingFields in="squads" :things="things" :except="['note', 'tags']" @set="setField" @done="release" />
    </fieldset>
    <p v-if="sentences.length > 0" class="mt-2 leading-relaxed">{{ sentences.join(' ') }}</p>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Its spawners</h3>
    <p v-if="members.length === 0" class="text-faded">None yet.</p>
    <ul v-else>
      <li v-for="m in members" :key="m" class="row justify-between py-0.5">
        <button class="truncate text-left hover:underline" @click="sheet.choose([m])">
          {{ nameOf(levels.doc, m) }} ×{{ levels.doc.spawners[m].count }}
        </button>
        <button class="btn-quiet shrink-0" :aria-label="`Take ${nameOf(levels.doc, m)} out`" @click="leaveIt(m)">
          out
        </button>
      </li>
    </ul>
    <label v-if="others.length > 0 && !squad.locked" class="mt-1 block">
      <span class="label">take in</span>
      <select class="field" aria-label="take in" @change="join">
        <option value="">choose a spawner …</option>
        <option v-for="[sid, s] in others" :key="sid" :value="sid">{{ s.name }}</option>
      </select>
    </label>
    <template v-if="squad.zoneId">
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Posts of {{ nameOf(levels.doc, squad.zoneId) }}</h3>
      <p v-if="posts.length === 0" class="text-faded">None yet.</p>
      <ul v-else>
        <li v-for="[pid, p] in posts" :key="pid" class="row justify-between py-0.5">
          <button class="truncate text-left hover:underline" @click="sheet.choose([pid])">
            {{ p.name || 'Post' }}
          </button>
          <span class="label shrink-0">{{ holders ? (holders.posts.get(pid) ?? 'free') : `worth ${p.worth}` }}</span>
        </li>
      </ul>
      <p v-if="holders && holders.waiting.length > 0" class="mt-1 text-faded">
        Waiting: {{ holders.waiting.join(', ') }}.
      </p>
    </template>
    <fieldset :disabled="squad.locked">
      <ThingFields in="squads" :things="things" :only="['note', 'tags']" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button v-if="squad.briefId" class="btn" @click="sheet.choose([squad.briefId])">Open brief</button>
      <button v-if="squad.zoneId" class="btn" @click="sheet.choose([squad.zoneId])">Open zone</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
