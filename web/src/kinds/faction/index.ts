import { computed, defineComponent, h, onMounted, ref, watch } from 'vue'
import { factionIdOf, stanceOf, type Faction } from '@tidytrail/core/level'
import { readInks } from '../../map/inks'
import { dropOf, lookOf } from '../../map/layers/drop-of'
import { useLevelStore } from '../../stores/level'
import { count } from '../../ui/figures'
import { defineView } from '../kind-view'
import { PLACES_LAYER } from '../layers'
import { useCollection, useRows } from '../plain-register'
import type { Register, RegisterRow } from '../register'
import FactionCard from './FactionCard.vue'
import FactionFoot from './FactionFoot.vue'

/** The drop of a faction as the map draws it. */
export const FactionDrop = defineComponent({
  props: { row: { type: Object as () => Pick<RegisterRow, 'id'>, required: true } },
  setup(props) {
    const levels = useLevelStore()
    const canvas = ref<HTMLCanvasElement>()
    const look = computed(() => lookOf(levels.level?.factions[props.row.id]))
    function draw(): void {
      const c = canvas.value?.getContext('2d')
      if (!c) return
      const ratio = window.devicePixelRatio || 1
      c.setTransform(ratio, 0, 0, ratio, 0, 0)
      c.clearRect(0, 0, 24, 18)
      dropOf(readInks(ratio), c, look.value, 9, 9, 0, 6.5)
    }
    onMounted(draw)
    watch(look, draw)
    return () => {
      const ratio = window.devicePixelRatio || 1
      return h('canvas', {
        ref: canvas,
        width: 24 * ratio,
        height: 18 * ratio,
        style: 'width:24px;height:18px',
        'aria-hidden': 'true',
      })
    }
  },
})

const register: Register = {
  id: 'factions',
  stage: 'cast',
  name: 'Factions',
  find: 'Find a faction',
  symbol: FactionDrop,
  foot: FactionFoot,
  use() {
    const levels = useLevelStore()
    return {
      ...useCollection('factions'),
      rows: useRows<Faction>('factions', (_f, id) => {
        const { factions, spawners } = levels.doc
        const hostile = Object.keys(factions).filter((o) => stanceOf(factions, id, o) === 'hostile')
        const size = Object.values(spawners).filter((s) => factionIdOf(levels.doc, s) === id).length
        const against = hostile.map((o) => factions[o].name).join(', ')
        return { detail: `${count(size, 'spawner')}${against ? ` · against ${against}` : ''}`, size }
      }),
      empty: computed(() => 'No faction yet: nobody is hostile to anybody.'),
    }
  },
}

export const factionView = defineView({
  in: 'factions',
  stage: 'cast',
  layer: PLACES_LAYER,
  tone: 'text-ink',
  card: FactionCard,
  register,
})
