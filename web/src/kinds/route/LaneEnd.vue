<script setup lang="ts">
import { addLinks } from '@tidytrail/core/level'
import { laneNet, turnNeedsM, turnsRoundInto } from '@tidytrail/core/traffic'
import { computed } from 'vue'
import { randomId } from '../../stores/random-id'
import { useThing } from '../card/use-thing'

/** Where a lane for driving leads on at its end; where it does not, what those do who come there. */
const props = defineProps<{ id: string }>()
const { levels, sheet, thing: route, set } = useThing('routes', () => props.id)

const net = computed(() => laneNet(levels.doc))
const lane = computed(() => net.value.lanes.get(props.id))
const out = computed(() => net.value.out.get(props.id) ?? [])
const back = computed(() => turnsRoundInto(net.value, props.id))
const nameOf = (id: string) => levels.doc.routes[id].name

function turnRound() {
  const [from, into] = [lane.value, back.value]
  if (!from || !into) return
  const turnM = turnNeedsM(levels.doc, [from.id, into.id])
  const id = randomId('links')
  levels.perform(addLinks, { links: [{ id, fromId: from.endId, toId: into.startId, twoWay: false, turnM }] })
  sheet.choose([id])
}
</script>

<template>
  <section v-if="lane && !lane.closed" class="mt-2 border-t border-rule pt-2 text-[13px]" aria-label="Its end">
    <p v-if="out.length > 0" class="text-faded">
      Leads on into
      <template v-for="(move, k) in out" :key="move.id"
        ><template v-if="k > 0">, </template
        ><button class="underline" @click="sheet.choose([move.to])">{{ nameOf(move.to) }}</button></template
      >
    </p>
    <template v-else>
      <p class="text-faded">
        {{ route.atEnd === 'leave' ? 'Those who come to its end leave the level.' : 'It leads on nowhere.' }}
      </p>
      <div class="flex flex-wrap gap-1">
        <button
          v-if="back"
          class="btn"
          :disabled="route.locked"
          :title="`A turning circle at its end, into ${back.route.name}`"
          @click="turnRound"
        >
          Turn round there
        </button>
        <button
          class="btn"
          :disabled="route.locked"
          :aria-pressed="route.atEnd === 'leave'"
          @click="set({ atEnd: route.atEnd === 'leave' ? 'unsaid' : 'leave' })"
        >
          {{ route.atEnd === 'leave' ? 'They do not leave' : 'They leave the level' }}
        </button>
      </div>
    </template>
  </section>
</template>
