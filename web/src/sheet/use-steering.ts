import { useEventListener } from '@vueuse/core'
import { watch } from 'vue'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'

/** Which way each key steers, east and north. */
const WAYS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  KeyW: [0, 1],
  KeyS: [0, -1],
  KeyA: [-1, 0],
  KeyD: [1, 0],
}
/** Share of its usual speed somebody walks quietly at. */
const QUIET = 0.4

/** Lets a stand-in be steered by keys while the rehearsal goes on: they come before all other shortcuts. */
export function useSteering(): void {
  const rehearsal = useRehearsalStore()
  const levels = useLevelStore()
  const down = new Set<string>()
  let told = ''

  function speeds(): { quiet: number; usual: number; run: number } {
    const profileId = rehearsal.agents[rehearsal.placeOf(rehearsal.steering ?? '')]?.profileId ?? ''
    const profile = levels.level?.profiles[profileId]
    const all = profile ? Object.values(profile.gaits) : [1.4]
    const usual = profile?.gaits[profile.gait] ?? all[0]
    return { quiet: usual * QUIET, usual, run: Math.max(...all) }
  }

  function tell(event: KeyboardEvent): void {
    const id = rehearsal.steering
    if (!id) return
    let [x, y] = [0, 0]
    for (const code of down) {
      x += WAYS[code][0]
      y += WAYS[code][1]
    }
    const length = Math.hypot(x, y)
    const { quiet, usual, run } = speeds()
    const mps = length === 0 ? 0 : event.shiftKey ? run : event.altKey ? quiet : usual
    const now = `${id} ${x} ${y} ${mps}`
    if (now === told) return
    told = now
    rehearsal.steer(id, length > 0 ? x / length : 0, length > 0 ? y / length : 0, mps)
  }

  const inField = (event: KeyboardEvent) =>
    (event.target as HTMLElement | null)?.closest('input:not([type=range]), textarea, select')

  useEventListener(
    window,
    'keydown',
    (event) => {
      if (!rehearsal.steering || inField(event) || event.ctrlKey || event.metaKey) return
      if (event.code === 'Escape') rehearsal.takeOver(undefined)
      else if (event.code === 'KeyN') {
        if (!event.repeat) rehearsal.makeNoise(rehearsal.steering)
      } else if (event.code in WAYS) down.add(event.code)
      else if (event.key !== 'Shift' && event.key !== 'Alt') return
      event.preventDefault()
      event.stopImmediatePropagation()
      if (!event.repeat) tell(event)
    },
    { capture: true },
  )
  useEventListener(
    window,
    'keyup',
    (event) => {
      down.delete(event.code)
      if (rehearsal.steering) tell(event)
    },
    { capture: true },
  )
  // A key let go outside the window is never heard of.
  useEventListener(window, 'blur', () => down.clear())
  watch(
    () => rehearsal.steering,
    () => {
      down.clear()
      told = ''
    },
  )
}
