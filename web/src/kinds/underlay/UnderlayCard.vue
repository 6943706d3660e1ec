<script setup lang="ts">
import CardFrame from '../card/CardFrame.vue'
import RankButtons from '../card/RankButtons.vue'
import ThingFields from '../card/ThingFields.vue'
import { useThing } from '../card/use-thing'

const props = defineProps<{ id: string }>()
const { sheet, thing: underlay, things, set, setField, release, remove } = useThing('underlays', () => props.id)
</script>

<template>
  <CardFrame
    kind="underlay"
    :name="underlay.name"
    tone="text-faded"
    :locked="underlay.locked"
    @rename="set({ name: $event })"
  >
    <fieldset :disabled="underlay.locked">
      <ThingFields in="underlays" :things="things" @set="setField" @done="release" />
      <RankButtons :id="id" in="underlays" />
    </fieldset>
    <p class="mt-2 text-[13px] text-faded">Two places whose distance you know place it at once.</p>
    <template #foot>
      <button class="btn btn-main" :disabled="underlay.locked" @click="sheet.toolId = 'pin'">
        Place by two points
      </button>
      <button class="btn" @click="set({ locked: !underlay.locked })">{{ underlay.locked ? 'Unlock' : 'Lock' }}</button>
      <button class="btn text-alarm!" @click="remove">Delete</button>
    </template>
  </CardFrame>
</template>
