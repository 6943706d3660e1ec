<script setup lang="ts">
import { briefIdOf, factionIdOf, nameOf, setThings, stanceOf, type Collection } from '@tidytrail/core/level'
import { routesOfSpawner } from '@tidytrail/core/network'
import { computed, ref } from 'vue'
import { idsByName } from '../../kinds/card/by-name'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'

/** Every squad and spawner against what it follows, holds and fights; each can be changed where it stands. */
const levels = useLevelStore()
const sheet = useSheetStore()
const text = ref('')
/** Rows drawn at most: more are found by their names. */
const MOST = 120

const rows = computed(() => {
  const wanted = text.value.trim().toLowerCase()
  const all = [...idsByName(levels.doc, 'squads'), ...idsByName(levels.doc, 'spawners')]
  return all.filter((id) => !wanted || nameOf(levels.doc, id).toLowerCase().includes(wanted))
})
const shown = computed(() => rows.value.slice(0, MOST))
const listed = (c: Collection) => idsByName(levels.doc, c)
const choices = computed(() => ({
  factions: listed('factions'),
  squads: listed('squads'),
  briefs: listed('briefs'),
  zones: listed('zones'),
}))
const isSquad = (id: string) => Object.hasOwn(levels.doc.squads, id)
/** What it has from its squad, where it says nothing itself. */
function ofSquad(id: string, key: 'factionId' | 'briefId'): string {
  if (isSquad(id)) return 'none'
  const s = levels.doc.spawners[id]
  const from = key === 'factionId' ? factionIdOf(levels.doc, s) : briefIdOf(levels.doc, s)
  return from ? `${nameOf(levels.doc, from)} (squad)` : 'none'
}
function zoneOf(id: string): string {
  if (isSquad(id)) return 'none'
  const zoneId = levels.doc.squads[levels.doc.spawners[id].squadId ?? '']?.zoneId
  return zoneId ? nameOf(levels.doc, zoneId) : ''
}
/** What can be picked, for whom, and what stands where nothing is. */
const COLUMNS = [
  {
    key: 'squadId',
    in: 'squads',
    word: 'squad',
    of: (id: string) => !isSquad(id),
    none: (id: string) => (isSquad(id) ? '' : 'none'),
  },
  { key: 'factionId', in: 'factions', word: 'faction', of: () => true, none: (id: string) => ofSquad(id, 'factionId') },
  { key: 'briefId', in: 'briefs', word: 'brief', of: () => true, none: (id: string) => ofSquad(id, 'briefId') },
  { key: 'zoneId', in: 'zones', word: 'zone', of: isSquad, none: zoneOf },
] as const
const own = (id: string, key: string) =>
  ((isSquad(id) ? levels.doc.squads[id] : levels.doc.spawners[id]) as unknown as Record<string, string | null>)[key]
function set(id: string, values: object): void {
  // What is chosen together is set together.
  const ids = sheet.selected.includes(id)
    ? sheet.selected.filter((s) => isSquad(s) === isSquad(id) && rows.value.includes(s))
    : [id]
  levels.perform(setThings, {
    things: ids.map((i) => ({ in: isSquad(i) ? ('squads' as const) : ('spawners' as const), id: i, set: values })),
    word: 'Change',
  })
}
const valueOf = (event: Event) => (event.target as HTMLSelectElement).value || null
/** What it follows, holds, or wanders in, in a few words. */
function does(id: string): string {
  const briefId = isSquad(id) ? levels.doc.squads[id].briefId : briefIdOf(levels.doc, levels.doc.spawners[id])
  const brief = levels.doc.briefs[briefId ?? '']
  if (!brief) return '–'
  const routes = isSquad(id)
    ? []
    : [...new Set(routesOfSpawner(levels.doc, id))].flatMap((r) => (r ? [nameOf(levels.doc, r)] : []))
  const kinds = new Set(brief.order.map((s) => brief.steps[s].kind))
  const words = [
    routes.length > 0 ? `follows ${routes.join(' or ')}` : '',
    kinds.has('hold') ? 'holds posts' : '',
    kinds.has('wander') ? 'wanders' : '',
    kinds.has('guard') ? 'guards' : '',
    kinds.has('board') ? 'boards' : '',
    kinds.has('chase') ? 'chases' : '',
  ]
  return words.filter(Boolean).join(', ') || brief.name
}
/** Whom it fights. */
function fights(id: string): string {
  const own = isSquad(id) ? levels.doc.squads[id].factionId : factionIdOf(levels.doc, levels.doc.spawners[id])
  if (!own) return '–'
  const { factions } = levels.doc
  const hostile = Object.keys(factions).filter((f) => stanceOf(factions, own, f) === 'hostile')
  return hostile.map((f) => factions[f].name).join(', ') || 'nobody'
}
function choose(id: string, event: MouseEvent): void {
  if (event.shiftKey || event.ctrlKey || event.metaKey) sheet.toggle(id)
  else sheet.choose([id])
}
const count = (event: Event) =>
  Math.max(1, Math.min(5000, Math.round(Number((event.target as HTMLInputElement).value)) || 1))
</script>

<template>
  <div class="flex min-h-0 flex-1 flex-col">
    <p v-if="rows.length === 0 && !text" class="px-3 pb-2 text-faded">Nobody yet. Place a spawner with S.</p>
    <div v-else class="min-h-0 flex-1 overflow-auto px-3 pb-2">
      <table class="w-full table-fixed border-collapse text-[12.5px]" aria-label="Squads and spawners">
        <thead class="sticky top-0 z-10 bg-sheet">
          <tr class="text-left text-faded">
            <th scope="col" class="w-[17%] py-1 font-normal">
              <input
                v-model="text"
                type="search"
                class="field min-h-[24px]! py-0!"
                placeholder="Find"
                aria-label="Find in the table"
              />
            </th>
            <th scope="col" class="w-[7%] px-1 font-normal">many</th>
            <th v-for="c in COLUMNS" :key="c.key" scope="col" class="px-1 font-normal">{{ c.word }}</th>
            <th scope="col" class="w-[13%] px-1 font-normal">does</th>
            <th scope="col" class="w-[10%] px-1 font-normal">fights</th>
          </tr>
        </thead>
        <tbody>
          <tr
            v-for="id in shown"
            :key="id"
            class="border-t border-rule"
            :class="sheet.selected.includes(id) ? 'bg-tint' : ''"
            @mouseenter="sheet.hovered = id"
            @mouseleave="sheet.hovered = undefined"
          >
            <th scope="row" class="max-w-[160px] text-left font-normal">
              <button
                class="w-full truncate text-left hover:underline"
                :class="isSquad(id) ? 'font-bold' : ''"
                :title="nameOf(levels.doc, id)"
                @click="choose(id, $event)"
              >
                {{ nameOf(levels.doc, id) }}
              </button>
            </th>
            <td class="px-1">
              <input
                v-if="!isSquad(id)"
                class="field min-h-[24px]! w-full! px-0.5! py-0! text-right"
                inputmode="numeric"
                :aria-label="`how many ${nameOf(levels.doc, id)} sends`"
                :value="levels.doc.spawners[id].count"
                @change="set(id, { count: count($event) })"
              />
              <span v-else class="text-faded">squad</span>
            </td>
            <td v-for="column in COLUMNS" :key="column.key" class="px-1">
              <select
                v-if="column.of(id)"
                class="field min-h-[24px]! w-full! appearance-none truncate px-1! py-0!"
                :aria-label="`${column.word} of ${nameOf(levels.doc, id)}`"
                :value="own(id, column.key) ?? ''"
                @change="set(id, { [column.key]: valueOf($event) })"
              >
                <option value="">{{ column.none(id) }}</option>
                <option v-for="c in choices[column.in]" :key="c" :value="c">{{ nameOf(levels.doc, c) }}</option>
              </select>
              <span v-else class="text-faded">{{ column.none(id) }}</span>
            </td>
            <td class="max-w-[190px] truncate px-1" :title="does(id)">{{ does(id) }}</td>
            <td class="max-w-[120px] truncate px-1" :title="fights(id)">{{ fights(id) }}</td>
          </tr>
        </tbody>
      </table>
      <p v-if="rows.length > shown.length" class="pt-1 text-faded">
        {{ rows.length - shown.length }} more: find them by their names.
      </p>
    </div>
  </div>
</template>
