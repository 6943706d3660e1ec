<script setup lang="ts">
import { addThings, briefIdsOf, nameOf, postSchema, setThings } from '@tidytrail/core/level'
import type { SuggestedPost } from '@tidytrail/core/reach'
import { computed, ref } from 'vue'
import { useCastStore } from '../../stores/cast'
import { randomId } from '../../stores/random-id'
import { useSurveyStore } from '../../stores/survey'
import { count } from '../../ui/figures'
import { toast } from '../../ui/toasts'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'
import ZoneSeen from './ZoneSeen.vue'

/** A zone: what it is for, how much of it can be reached, its posts, and who is told to be in it. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: zone, things, set, setField, release, remove } = useThing('zones', () => props.id)
const survey = useSurveyStore()
const cast = useCastStore()
const looking = ref(false)

const facts = computed(() => cast.facts.zones[props.id])
const posts = computed(() => Object.keys(levels.doc.posts).filter((p) => levels.doc.posts[p].zoneId === props.id))
const squads = computed(() => Object.keys(levels.doc.squads).filter((s) => levels.doc.squads[s].zoneId === props.id))
const spawners = computed(() =>
  Object.entries(levels.doc.spawners)
    .filter(([, s]) => {
      if (s.zoneId === props.id) return true
      return briefIdsOf(levels.doc, s).some((b) => JSON.stringify(levels.doc.briefs[b] ?? '').includes(props.id))
    })
    .map(([id]) => id),
)
const users = computed(() => [...squads.value, ...spawners.value])
const factions = computed(() => Object.entries(levels.doc.factions))
const forSome = computed(() => zone.value.purpose === 'keep-out' || zone.value.purpose === 'start')

function toggle(factionId: string): void {
  const { factionIds } = zone.value
  const next = factionIds.includes(factionId) ? factionIds.filter((f) => f !== factionId) : [...factionIds, factionId]
  set({ factionIds: next })
}
/** Posts that are suggested and not taken yet, by how good they are. */
const offered = computed(() => (cast.suggested?.zoneId === props.id ? cast.suggested.posts : []))
async function suggest(): Promise<void> {
  looking.value = true
  const found = (await survey.suggestPosts(props.id, 6)) ?? []
  looking.value = false
  const own = posts.value.map((p) => levels.doc.posts[p].at)
  const fresh = found.filter(({ at }) => own.every((o) => Math.hypot(o[0] - at[0], o[1] - at[1]) > 2))
  if (fresh.length === 0) toast(`No further place in ${zone.value.name} would do as a post.`)
  cast.suggested = fresh.length > 0 ? { zoneId: props.id, posts: fresh } : undefined
}
function take(list: readonly SuggestedPost[]): void {
  const count0 = posts.value.length
  const things = list.map((p, k) => ({
    in: 'posts' as const,
    id: randomId('posts'),
    thing: postSchema.parse({
      ...p,
      name: `${zone.value.name}, post ${count0 + k + 1}`.slice(0, 200),
      zoneId: props.id,
    }),
  }))
  levels.perform(addThings, { things, label: `Add ${count(things.length, 'suggested post')}` })
  const left = offered.value.filter((p) => !list.includes(p))
  cast.suggested = left.length > 0 ? { zoneId: props.id, posts: left } : undefined
}
/** Posts that lie in it and belong to none. */
const loose = computed(() => Object.keys(levels.doc.posts).filter((p) => levels.doc.posts[p].zoneId === null))
const takeLoose = () =>
  levels.perform(setThings, {
    things: loose.value.map((id) => ({ in: 'posts' as const, id, set: { zoneId: props.id } })),
    word: 'Give to a zone',
  })
</script>

<template>
  <CardFrame
    kind="zone"
    :name="zone.name"
    tone="text-ink"
    :locked="zone.locked"
    :subjects="[id, ...posts]"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="zone.locked">
      <ThingFields in="zones" :things="things" :except="['note', 'tags']" @set="setField" @done="release" />
      <fieldset v-if="forSome && factions.length > 0" class="mt-2">
        <legend class="label">{{ zone.purpose === 'start' ? 'for' : 'keeps out' }} (none ticked: everyone)</legend>
        <label v-for="[fid, f] in factions" :key="fid" class="row py-0.5">
          <input type="checkbox" class="accent-pine" :checked="zone.factionIds.includes(fid)" @change="toggle(fid)" />
          {{ f.name }}
        </label>
      </fieldset>
    </fieldset>
    <p v-if="facts" class="mt-2">
      {{ levels.doc.profiles[facts.profileId]?.name }} can reach <b>{{ Math.round(facts.share * 100) }} %</b> of it,
      {{ Math.round(facts.floorM2) }} m² of floor.
    </p>
    <ZoneSeen :id="id" />
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Posts</h3>
    <p v-if="posts.length === 0" class="text-faded">None yet. Place some with O, or let them be suggested.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="p in posts" :key="p" class="btn" @click="sheet.choose([p])">{{ nameOf(levels.doc, p) }}</button>
    </p>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <template v-if="offered.length > 0">
        <p class="w-full text-[13px] text-faded">Numbered on the map, the best first. Take those that are wanted.</p>
        <button v-for="(p, k) in offered" :key="k" class="btn" @click="take([p])">
          Take {{ k + 1 }} <span class="label">worth {{ p.worth }}</span>
        </button>
        <button class="btn btn-main" @click="take(offered)">Take all {{ offered.length }}</button>
        <button class="btn" @click="cast.suggested = undefined">None</button>
      </template>
      <button v-else class="btn" :disabled="looking" @click="suggest">
        {{ looking ? 'Looking …' : 'Suggest posts' }}
      </button>
      <button v-if="loose.length > 0" class="btn" @click="takeLoose">
        Take the {{ loose.length === 1 ? 'post' : `${loose.length} posts` }} of no zone
      </button>
    </div>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Who is told to be in it</h3>
    <p v-if="users.length === 0" class="text-faded">Nobody yet.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="u in users" :key="u" class="btn" @click="sheet.choose([u])">{{ nameOf(levels.doc, u) }}</button>
    </p>
    <fieldset :disabled="zone.locked">
      <ThingFields in="zones" :things="things" :only="['note', 'tags']" @set="setField" @done="release" />
    </fieldset>
    <template #foot>
      <button class="btn" @click="sheet.arranging = true">Copies …</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
