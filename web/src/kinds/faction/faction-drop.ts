import { useTheme } from '../../ui/theme'
import { computed, defineComponent, h, onMounted, ref, watch } from 'vue'
import { readInks, type Inks } from '../../map/inks'
import { dropOf, lookOf } from '../../map/layers/drop-of'
import { useLevelStore } from '../../stores/level'
import type { RegisterRow } from '../register'

const known = new Map<string, Inks>()

/** The inks of day or night, made once: a list has a drop in every row. */
function inksNow(ratio: number): Inks {
  const key = `${document.documentElement.dataset.theme} ${ratio}`
  let inks = known.get(key)
  if (!inks) known.set(key, (inks = readInks(ratio)))
  return inks
}

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
      dropOf(inksNow(ratio), c, look.value, 9, 9, 0, 6.5)
    }
    onMounted(draw)
    const { night } = useTheme()
    watch([look, night], draw, { flush: 'post' })
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
