import type { MakeTool } from '../../tools/tool'

/** Shows what a waypoint is connected to; a second click shows the way to another. */
export const connectTool: MakeTool = (ctx) => ({
  id: 'connect',
  label: 'Connections',
  key: 'x',
  stages: ['routes'],
  hint: 'Click a waypoint to see what can be reached from it, a second one for the way to it. Escape ends.',
  cursor: 'crosshair',
  down: () => true,
  move() {
    ctx.sheet.connecting ??= {}
  },
  up(p) {
    const hit = ctx.hit(p, ['stop', 'waypoints'])
    const id =
      hit?.kind === 'stop' ? hit.waypointId : hit?.kind === 'thing' && hit.in === 'waypoints' ? hit.id : undefined
    if (!id) {
      ctx.sheet.connecting = {}
      return
    }
    const { fromId, toId } = ctx.sheet.connecting ?? {}
    ctx.sheet.connecting = fromId && !toId && fromId !== id ? { fromId, toId: id } : { fromId: id }
  },
  press(key) {
    if (key !== 'Escape') return false
    ctx.sheet.connecting = undefined
    ctx.done()
    return true
  },
  leave() {
    ctx.sheet.connecting = undefined
  },
})
