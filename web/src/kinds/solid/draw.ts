import { boxesMeet, distanceToRing, ringHolds } from '@tidytrail/core/geometry'
import { terrainOf, type SolidShape } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { seenBox } from '../../map/viewport'
import { labelArea } from '../../map/label-room'
import { inMetres, pinPattern, traceLine, X, Y, type Pen } from '../../map/pen'

/** Solids are drawn so many at a time. */
const SOLIDS_AT_ONCE = 20

/** Solids like buildings on a town plan: hatched, or paper where one can walk on top; low ones first. */
export function* drawSolids(pen: Pen, level: Level): Generator<void, void> {
  const { c, inks, view } = pen
  const seen = seenBox(view)
  const shapes = terrainOf(level)
    .solids.filter((s) => boxesMeet(s.box, seen) && !level.solids[s.id]?.hidden)
    .sort((a, b) => a.topM - b.topM)
  for (const [k, shape] of shapes.entries()) {
    if (k % SOLIDS_AT_ONCE === SOLIDS_AT_ONCE - 1) yield
    const isRamp = level.solids[shape.id].shape === 'ramp'
    inMetres(pen, (m) => {
      c.beginPath()
      shape.ring.forEach(([x, y], i) => (i === 0 ? c.moveTo(x, y) : c.lineTo(x, y)))
      c.closePath()
      c.fillStyle = inks.colour.paper
      c.fill()
      if (!shape.walkable) {
        c.fillStyle = pinPattern(pen, inks.hatch)
        c.fill()
      }
      c.strokeStyle = inks.colour.ink
      c.lineWidth = (shape.walkable ? 1.1 : 1.6) * m
      c.stroke()
    })
    if (isRamp) drawRise(pen, shape)
  }
}

/** Treads across a ramp, growing longer upwards. */
function drawRise(pen: Pen, shape: SolidShape): void {
  const { c, inks } = pen
  const [a, b, d, e] = shape.ring
  const treads = Math.min(24, Math.max(3, Math.floor((Math.hypot(b[0] - a[0], b[1] - a[1]) * pen.view.scale) / 6)))
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 0.8
  c.beginPath()
  for (let k = 1; k < treads; k++) {
    const t = k / treads
    const half = 0.5 * (0.25 + 0.75 * t)
    const at = (s: number): [number, number] => [
      a[0] + (b[0] - a[0]) * t + (e[0] - a[0] + (d[0] - b[0] - e[0] + a[0]) * t) * s,
      a[1] + (b[1] - a[1]) * t + (e[1] - a[1] + (d[1] - b[1] - e[1] + a[1]) * t) * s,
    ]
    traceLine(pen, [at(0.5 - half), at(0.5 + half)])
  }
  c.stroke()
}

/** Names and heights, where there is room for them. */
export function drawSolidLabels(pen: Pen, level: Level): void {
  const seen = seenBox(pen.view)
  pen.c.font = "400 12px 'Atkinson Hyperlegible', sans-serif"
  for (const shape of terrainOf(level).solids) {
    const solid = level.solids[shape.id]
    if (!shape.name || solid.hidden || !boxesMeet(shape.box, seen) || solid.shape === 'ramp') continue
    const width = (shape.box.maxX - shape.box.minX) * pen.view.scale
    const height = (shape.box.maxY - shape.box.minY) * pen.view.scale
    const full = shape.walkable ? shape.name : `${shape.name} · ${+solid.heightM.toFixed(1)} m`
    const text = pen.c.measureText(full).width + 10 < width ? full : shape.name
    if (height < 22 || pen.c.measureText(text).width - 6 > width) continue
    labelArea(pen, level, text, labelPlace(shape), (x, y) => ringHolds(shape.ring, x, y))
  }
}

const places = new WeakMap<SolidShape, [number, number]>()
const SAMPLES = 24

/** The place inside an outline that is farthest from its edge, tried on a grid: where a label has most room. */
function labelPlace(shape: SolidShape): [number, number] {
  let at = places.get(shape)
  if (at) return at
  const { ring, box } = shape
  at = [(box.minX + box.maxX) / 2, (box.minY + box.maxY) / 2]
  let most = ring.length > 4 ? 0 : Infinity
  for (let i = 1; i < SAMPLES && most < Infinity; i++) {
    for (let j = 1; j < SAMPLES; j++) {
      const x = box.minX + ((box.maxX - box.minX) * i) / SAMPLES
      const y = box.minY + ((box.maxY - box.minY) * j) / SAMPLES
      if (!ringHolds(ring, x, y)) continue
      const room = distanceToRing(ring, x, y)
      if (room <= most) continue
      most = room
      at = [x, y]
    }
  }
  places.set(shape, at)
  return at
}

/** The outline and handles of chosen solids. */
export function drawSolidChosen(pen: Pen, level: Level, id: string, handles: readonly (readonly number[])[]): void {
  const shape = terrainOf(level).solids.find((s) => s.id === id)
  if (!shape) return
  const { c, inks } = pen
  c.strokeStyle = inks.colour.rust
  c.lineWidth = 2.5
  c.beginPath()
  traceLine(pen, shape.ring, true)
  c.stroke()
  for (const [x, y] of handles) {
    c.fillStyle = inks.colour.sheet
    c.strokeStyle = inks.colour.rust
    c.lineWidth = 2
    c.beginPath()
    c.rect(X(pen, x) - 4.5, Y(pen, y) - 4.5, 9, 9)
    c.fill()
    c.stroke()
  }
}
