<script setup lang="ts">
import { addThing, bodyOf, freshName, PRESETS, profileSchema, type Profile } from '@tidytrail/core/level'
import { computed, ref, watch } from 'vue'
import RegisterPanel, { type RegisterRow } from './RegisterPanel.vue'
import RegisterTabs from './RegisterTabs.vue'
import { useRegisterActions } from './register-actions'
import { requestPlace, requestZoom } from '../zoom'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import ProfileLook from '../../ui/ProfileLook.vue'
import { PASSAGE_WORDS } from '../../kinds/passage/draw-passage'
import { count, metres } from '../../ui/figures'
import ProfileFigure from '../../kinds/profile/ProfileFigure.vue'
import SuggestBar from '../../kinds/passage/SuggestBar.vue'

type Tab = 'islands' | 'profiles' | 'reachAreas' | 'passages'
const levels = useLevelStore()
const sheet = useSheetStore()
const survey = useSurveyStore()
const tab = ref<Tab>('islands')
const named = useRegisterActions(() => (tab.value === 'islands' ? 'profiles' : tab.value))
const choosing = ref(false)

watch(
  () => sheet.chosen,
  (id) => {
    for (const t of ['profiles', 'reachAreas', 'passages'] as const) if (id && levels.doc[t][id]) tab.value = t
    if (id?.startsWith('island-')) tab.value = 'islands'
    // A chosen profile is the one looked at.
    if (id && levels.doc.profiles[id]) survey.profileChoice = id
  },
)
const islands = computed(() => (survey.profileId ? survey.reach.get(survey.profileId)?.islands : undefined) ?? [])
watch([islands, () => survey.profileId, tab], () => tab.value === 'islands' && void survey.askIslands(), {
  immediate: true,
})

const size = (o: object) => Object.keys(o).length
const tabs = computed(() => [
  { id: 'islands', name: 'Islands', count: islands.value.length },
  { id: 'profiles', name: 'Profiles', count: size(levels.doc.profiles) },
  { id: 'reachAreas', name: 'Areas', count: size(levels.doc.reachAreas) },
  { id: 'passages', name: 'Passages', count: size(levels.doc.passages) },
])
const area = (m2: number) => (m2 < 10 ? m2.toFixed(1) : Math.round(m2).toLocaleString('en'))
const who = (ids: readonly string[]) => ids.map((id) => levels.doc.profiles[id]?.name).filter(Boolean)

const rows = computed<RegisterRow[]>(() => {
  const level = levels.doc
  const kept = (t: { hidden: boolean; locked: boolean }) => ({ hidden: t.hidden, locked: t.locked })
  switch (tab.value) {
    case 'islands':
      return islands.value.slice(0, 200).map((island, i) => {
        const users = survey.islandFacts[i]?.users.length ?? 0
        return {
          id: `island-${i}`,
          name: i === 0 ? 'Main island' : `Island ${i + 1}`,
          detail: `${area(island.areaM2)} m² · at ${island.at[2].toFixed(1)} m`,
          size: island.areaM2,
          mark: users > 0 ? { text: `${users} here`, tone: 'plain' as const } : undefined,
        }
      })
    case 'profiles':
      return Object.entries(level.profiles).map(([id, p]) => ({
        id,
        name: p.name,
        detail: `${bodyOf(p.medium).word} · ${metres(2 * p.radiusM)} wide · ${metres(p.heightM)} high`,
        size: p.heightM,
        mark: id === survey.profileId ? { text: 'shown', tone: 'good' as const } : undefined,
        ...kept(p),
      }))
    case 'reachAreas':
      return Object.entries(level.reachAreas).map(([id, a]) => ({
        id,
        name: a.name || 'Unnamed',
        detail: who(a.profileIds).join(', ') || 'nobody may go there',
        size: a.ring.length,
        ...kept(a),
      }))
    default:
      return Object.entries(level.passages).map(([id, p]) => ({
        id,
        name: p.name || PASSAGE_WORDS[p.kind],
        detail: `${p.kind} · ${p.twoWay ? 'both ways' : 'one way'} · ${p.takesS} s${p.state === 'open' ? '' : ` · ${p.state}`}`,
        size: p.takesS,
        ...kept(p),
      }))
  }
})
const STROKES = ['var(--pine)', 'var(--plum)', 'var(--ochre)', 'var(--lake)', 'var(--rust)']
const empty = computed(
  () =>
    ({
      islands: survey.profileId
        ? 'Nobody of this profile can be anywhere here. Try “Why not here?” on the map.'
        : 'This level has no profile. Without a body nothing can be reached.',
      profiles: 'No profile yet. A profile is a kind of body: how wide, how high, what it can climb.',
      reachAreas: 'No area, so everyone may go everywhere. Draw one to keep a profile in.',
      passages: 'No passage yet. Draw one, or have jumps and drops suggested.',
    })[tab.value],
)

function show(id: string) {
  const island = islands.value[Number(id.slice(7))]
  if (id.startsWith('island-')) {
    if (island) requestPlace(island.at)
  } else requestZoom(id)
}

function add(preset: Profile) {
  const id = randomId('profiles')
  const name = Object.values(levels.doc.profiles).some((p) => p.name === preset.name)
    ? freshName(levels.doc.profiles, preset.name)
    : preset.name
  levels.perform(addThing, { in: 'profiles', id, thing: profileSchema.parse({ ...preset, name }) })
  choosing.value = false
  sheet.choose([id])
}
</script>

<template>
  <RegisterPanel
    title="Reach"
    :figure="count(rows.length, tab === 'reachAreas' ? 'area' : tab.slice(0, -1))"
    :rows="rows"
    :find="`Find among the ${tab === 'reachAreas' ? 'areas' : tab}`"
    :fixed="tab === 'islands'"
    :empty="empty"
    @rename="named.rename"
    @hide="named.hide"
    @lock="named.lock"
    @zoom="show"
    @click="sheet.chosen?.startsWith('island-') && tab === 'islands' && show(sheet.chosen)"
  >
    <template #top>
      <RegisterTabs :tabs="tabs" :chosen="tab" @choose="tab = $event as Tab" />
      <ProfileLook v-if="tab !== 'profiles'" class="mb-1" label="where can go" />
    </template>
    <template #symbol="{ row }">
      <svg v-if="tab === 'islands'" width="20" height="16" aria-hidden="true" class="shrink-0">
        <rect
          x="1"
          y="1"
          width="18"
          height="14"
          fill="none"
          :stroke="STROKES[Number(row.id.slice(7)) % 5]"
          stroke-dasharray="2 2.5"
          stroke-width="1.6"
        />
      </svg>
      <ProfileFigure
        v-else-if="tab === 'profiles' && levels.doc.profiles[row.id]"
        :profile="levels.doc.profiles[row.id]"
        small
      />
      <svg v-else width="22" height="16" viewBox="0 0 22 16" aria-hidden="true" class="shrink-0" fill="none">
        <path v-if="tab === 'passages'" d="M2 13Q11 -6 20 13" stroke="var(--plum)" stroke-width="1.8" />
        <path v-else d="M2 3l9-1 9 3-2 9H4z" stroke="var(--pine)" stroke-width="1.5" stroke-dasharray="4 1.5 1 1.5" />
      </svg>
    </template>
    <template #foot>
      <template v-if="tab === 'profiles'">
        <button class="btn btn-main" :aria-expanded="choosing" @click="choosing = !choosing">Add a profile</button>
        <div v-if="choosing" class="w-full border-t border-rule pt-1" role="menu" aria-label="Presets">
          <button
            v-for="p in PRESETS"
            :key="p.name"
            class="flex w-full items-center gap-2 px-1 py-0.5 text-left hover:bg-tint"
            role="menuitem"
            @click="add(p)"
          >
            <ProfileFigure :profile="p" small />
            <span>{{ p.name }}</span>
            <span class="label ml-auto">{{ bodyOf(p.medium).word }}</span>
          </button>
        </div>
      </template>
      <button v-else-if="tab === 'reachAreas'" class="btn btn-main" @click="sheet.toolId = 'area'">Draw an area</button>
      <template v-else-if="tab === 'passages'">
        <button class="btn" @click="sheet.toolId = 'passage'">Draw one</button>
        <SuggestBar />
      </template>
      <template v-else>
        <button class="btn btn-main" @click="sheet.toolId = 'probe'">Probe a path</button>
        <button class="btn" @click="sheet.toolId = 'why'">Why not?</button>
      </template>
    </template>
  </RegisterPanel>
</template>
