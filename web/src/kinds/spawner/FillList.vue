<script setup lang="ts">
import { nameOf, type Brief } from '@tidytrail/core/level'
import { computed } from 'vue'
import { useThing } from '../card/use-thing'

/** What a spawner fills the blanks of its brief with. */
const props = defineProps<{ id: string; briefId: string }>()
const { levels, thing: spawner, set } = useThing('spawners', () => props.id)
type Blank = Brief['blanks'][number]
const brief = computed(() => levels.doc.briefs[props.briefId])
const KEYS = { route: 'routeId', zone: 'zoneId', gait: 'gait' } as const
const gaits = computed(() => Object.keys(levels.doc.profiles[spawner.value.profileId ?? '']?.gaits ?? {}))
const choices = (kind: Blank['kind']) =>
  kind === 'gait'
    ? gaits.value.map((g) => ({ id: g, name: g }))
    : Object.keys(levels.doc[kind === 'route' ? 'routes' : 'zones']).map((id) => ({ id, name: nameOf(levels.doc, id) }))
const valueOf = (b: Blank) => spawner.value.fills.find((f) => f.blankId === b.id)?.[KEYS[b.kind]] ?? ''
function fill(b: Blank, event: Event): void {
  const value = (event.target as HTMLSelectElement).value || null
  const rest = spawner.value.fills.filter((f) => f.blankId !== b.id)
  set({ fills: [...rest, { blankId: b.id, routeId: null, zoneId: null, gait: null, [KEYS[b.kind]]: value }] })
}
</script>

<template>
  <label v-for="b in brief.blanks" :key="b.id" class="mt-1 block">
    <span class="label">{{ b.name }}</span>
    <select class="field" :aria-label="b.name" :value="valueOf(b)" @change="fill(b, $event)">
      <option value="">{{ b.kind === 'gait' ? 'its usual one' : 'none chosen' }}</option>
      <option v-for="c in choices(b.kind)" :key="c.id" :value="c.id">{{ c.name }}</option>
    </select>
  </label>
</template>
