<script setup lang="ts">
import { factionIdOf, nameOf, newStances, setThings, stanceOf, STANCES, type Stance } from '@tidytrail/core/level'
import { computed } from 'vue'
import CardFrame from '../card/CardFrame.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

/** A faction: how its agents are drawn, how it stands to each other one, and who belongs to it. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: faction, things, set, setField, release, remove } = useThing('factions', () => props.id)
const others = computed(() => Object.keys(levels.doc.factions).filter((f) => f !== props.id))
const stance = (other: string) => stanceOf(levels.doc.factions, props.id, other)
const users = computed(() =>
  Object.keys(levels.doc.spawners).filter((s) => factionIdOf(levels.doc, levels.doc.spawners[s]) === props.id),
)
function stand(other: string, event: Event): void {
  const next = newStances(levels.doc.factions, props.id, other, (event.target as HTMLSelectElement).value as Stance)
  levels.perform(setThings, {
    things: Object.entries(next).map(([id, lists]) => ({ in: 'factions' as const, id, set: lists })),
    word: 'Change how factions stand:',
  })
}
</script>

<template>
  <CardFrame
    kind="faction"
    :name="faction.name"
    tone="text-ink"
    :locked="faction.locked"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="faction.locked">
      <ThingFields in="factions" :things="things" :only="['pattern', 'ink']" @set="setField" @done="release" />
      <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Stands to others</h3>
      <p v-if="others.length === 0" class="text-faded">There is no other faction yet.</p>
      <label v-for="o in others" :key="o" class="row justify-between py-0.5">
        <span class="truncate">{{ nameOf(levels.doc, o) }}</span>
        <select
          class="field w-[110px]!"
          :aria-label="`stands to ${nameOf(levels.doc, o)}`"
          :value="stance(o)"
          @change="stand(o, $event)"
        >
          <option v-for="s in STANCES" :key="s" :value="s">{{ s }}</option>
        </select>
      </label>
      <ThingFields in="factions" :things="things" :only="['note', 'tags']" @set="setField" @done="release" />
    </fieldset>
    <h3 class="mt-3 border-t border-rule pt-2 text-[15px]">Who belongs to it</h3>
    <p v-if="users.length === 0" class="text-faded">Nobody yet. Pick it on the card of a spawner or a squad.</p>
    <p v-else class="flex flex-wrap gap-1">
      <button v-for="u in users" :key="u" class="btn" @click="sheet.choose([u])">{{ nameOf(levels.doc, u) }}</button>
    </p>
    <template #foot><button class="btn text-alarm!" @click="remove">Delete</button></template>
  </CardFrame>
</template>
