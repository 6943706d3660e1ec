import { terrainOf, type HeightField } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { contours } from 'd3-contour'
import { roundLength } from '../viewport'
import { allOf, type Drawn } from '../sliced'
import { inMetres, pinPattern, plainText, toMetres, X, Y, type Pen } from '../pen'

/** Contours and water of one ground, as paths in metres. */
interface GroundPaths {
  readonly water: Path2D | undefined
  /** A path for each height, or for part of it. */
  readonly lines: readonly Path2D[]
  readonly indexLines: readonly Path2D[]
  readonly labels: readonly { x: number; y: number; z: number; angle: number }[]
  readonly stepM: number
}

const EVERY_INDEX = 5
const kept = new WeakMap<HeightField, Map<number | null, GroundPaths>>()

function pathsOf(level: Level): GroundPaths {
  const water = level.settings.waterLevelM
  const { field } = terrainOf(level)
  let byWater = kept.get(field)
  if (!byWater) kept.set(field, (byWater = new Map()))
  let paths = byWater.get(water)
  if (!paths) byWater.set(water, (paths = makePaths(level)))
  return paths
}

/** Contours of more samples than this would hold the page up while the ground is painted. */
const MOST_SAMPLES = 90_000
/** A contour is stroked in pieces of so many points at most. */
const MOST_IN_A_PATH = 600

/** Every so many samples of a large field: as fine as can be seen on a screen. */
function thinned(field: HeightField): HeightField {
  const step = Math.ceil(Math.sqrt((field.columns * field.rows) / MOST_SAMPLES))
  if (step <= 1) return field
  const columns = Math.floor((field.columns - 1) / step) + 1
  const rows = Math.floor((field.rows - 1) / step) + 1
  const z = new Float64Array(columns * rows)
  for (let j = 0; j < rows; j++)
    for (let i = 0; i < columns; i++) z[j * columns + i] = field.z[j * step * field.columns + i * step]
  return { ...field, columns, rows, spacingM: field.spacingM * step, z }
}

function makePaths(level: Level): GroundPaths {
  const { columns, rows, spacingM, originX, originY, z } = thinned(terrainOf(level).field)
  const lines: Path2D[] = []
  const indexLines: Path2D[] = []
  const labels: GroundPaths['labels'][number][] = []
  const values = Array.from(z)
  let low = Infinity
  let high = -Infinity
  for (const v of values) {
    low = Math.min(low, v)
    high = Math.max(high, v)
  }
  const waterM = level.settings.waterLevelM
  const stepM = roundLength(Math.max(0.1, (high - Math.max(low, waterM ?? low)) / 22))
  const toX = (gx: number) => originX + (gx - 0.5) * spacingM
  const toY = (gy: number) => originY + (gy - 0.5) * spacingM
  const onRim = (gx: number, gy: number) => gx < 0.501 || gy < 0.501 || gx > columns - 0.501 || gy > rows - 0.501
  const generator = contours().size([columns, rows]).smooth(true)

  const thresholds: number[] = []
  for (let h = Math.ceil(low / stepM) * stepM; h < high; h += stepM) thresholds.push(+h.toFixed(6))
  for (const shape of level.ground.heights ? generator.thresholds(thresholds)(values) : []) {
    const isIndex = Math.round(shape.value / stepM) % EVERY_INDEX === 0
    const paths = isIndex ? indexLines : lines
    let path = new Path2D()
    let length = 0
    paths.push(path)
    for (const polygon of shape.coordinates) {
      for (const ring of polygon) {
        let inked = 0
        let down = false
        for (let i = 1; i < ring.length; i++) {
          if (++length % MOST_IN_A_PATH === 0) {
            paths.push((path = new Path2D()))
            down = false
          }
          const [ax, ay] = ring[i - 1]
          const [bx, by] = ring[i]
          if (onRim(ax, ay) && onRim(bx, by)) {
            down = false
            continue
          }
          if (!down) path.moveTo(toX(ax), toY(ay))
          path.lineTo(toX(bx), toY(by))
          down = true
          inked++
        }
        if (isIndex && inked > 24) {
          const i = Math.floor(ring.length * 0.3)
          const [ax, ay] = ring[i - 1]
          const [bx, by] = ring[i]
          if (!onRim(ax, ay))
            labels.push({ x: toX(bx), y: toY(by), z: shape.value, angle: Math.atan2(by - ay, bx - ax) })
        }
      }
    }
  }

  let water: Path2D | undefined
  if (waterM !== null) {
    water = new Path2D()
    if (level.ground.heights) {
      const [shape] = generator.thresholds([-waterM])(values.map((v) => -v))
      for (const polygon of shape.coordinates) {
        for (const ring of polygon) {
          ring.forEach(([gx, gy], i) => {
            const x = toX(gx <= 0.5 ? 0.5 : Math.min(columns - 0.5, gx))
            const y = toY(gy <= 0.5 ? 0.5 : Math.min(rows - 0.5, gy))
            if (i === 0) water!.moveTo(x, y)
            else water!.lineTo(x, y)
          })
          water.closePath()
        }
      }
    } else if (level.ground.baseM < waterM) {
      const e = level.settings.extent
      water.rect(e.minX, e.minY, e.maxX - e.minX, e.maxY - e.minY)
    }
  }
  return { water, lines, indexLines, labels, stepM }
}

/** The sheet itself: desk, paper within the extent, what lies right on it, water and contours. */
export function* drawGround(
  pen: Pen,
  level: Level,
  withContours: boolean,
  below: () => Drawn = () => {},
): Generator<void, void> {
  const { c, inks, view } = pen
  c.fillStyle = inks.colour.desk
  c.fillRect(0, 0, view.width, view.height)
  const { minX, minY, maxX, maxY } = level.settings.extent
  const paths = pathsOf(level)
  inMetres(pen, () => {
    c.fillStyle = inks.colour.paper
    c.fillRect(minX, minY, maxX - minX, maxY - minY)
  })
  allOf(below())
  yield
  const m = toMetres(pen)
  c.beginPath()
  c.rect(minX, minY, maxX - minX, maxY - minY)
  c.clip()
  if (withContours) {
    c.strokeStyle = inks.colour.contour
    c.lineWidth = 0.7 * m
    c.globalAlpha = 0.6
    for (const path of paths.lines) {
      c.stroke(path)
      yield
    }
    c.lineWidth = 1.3 * m
    c.globalAlpha = 0.85
    for (const path of paths.indexLines) {
      c.stroke(path)
      yield
    }
    c.globalAlpha = 1
  }
  if (paths.water) {
    c.fillStyle = inks.colour.water
    c.fill(paths.water, 'evenodd')
    yield
    c.fillStyle = pinPattern(pen, inks.waves)
    c.fill(paths.water, 'evenodd')
    yield
    c.strokeStyle = inks.colour.lake
    c.lineWidth = 1.4 * m
    c.stroke(paths.water)
    yield
  }
  c.restore()
  if (withContours && view.scale > 1.5) {
    for (const { x, y, z, angle } of paths.labels) {
      if (level.settings.waterLevelM !== null && z < level.settings.waterLevelM) continue
      const sx = X(pen, x)
      const sy = Y(pen, y)
      if (sx < 0 || sy < 0 || sx > view.width || sy > view.height) continue
      c.save()
      c.translate(sx, sy)
      // Readable from the foot of the sheet: never upside down.
      c.rotate(-(Math.abs(angle) > Math.PI / 2 ? angle - Math.sign(angle) * Math.PI : angle))
      const text = `${+z.toFixed(1)}`
      c.fillStyle = inks.colour.paper
      c.fillRect(-5 - 2.5 * text.length, -6, 10 + 5 * text.length, 12)
      plainText(pen, text, 0, 0, inks.colour.faded, false, 11)
      c.restore()
    }
  }
}

/** Crosses of the grid, as on a surveyor's sheet: fewer when zoomed out. */
export function drawGrid(pen: Pen, level: Level): void {
  const { c, inks, view } = pen
  const { extent, gridM } = level.settings
  const wanted = 38 / view.scale
  const step = wanted <= gridM ? gridM : gridM * roundLength(wanted / gridM)
  c.strokeStyle = inks.colour.faded
  c.globalAlpha = 0.35
  c.lineWidth = 1
  c.beginPath()
  const fromX = Math.ceil(Math.max(extent.minX, view.x - view.width / 2 / view.scale) / step) * step
  const toX = Math.min(extent.maxX, view.x + view.width / 2 / view.scale)
  const fromY = Math.ceil(Math.max(extent.minY, view.y - view.height / 2 / view.scale) / step) * step
  const toY = Math.min(extent.maxY, view.y + view.height / 2 / view.scale)
  for (let x = fromX; x <= toX; x += step) {
    for (let y = fromY; y <= toY; y += step) {
      const sx = Math.round(X(pen, x)) + 0.5
      const sy = Math.round(Y(pen, y)) + 0.5
      c.moveTo(sx - 3, sy)
      c.lineTo(sx + 3, sy)
      c.moveTo(sx, sy - 3)
      c.lineTo(sx, sy + 3)
    }
  }
  c.stroke()
  c.globalAlpha = 1
}

/** The neat line round the extent: two rules, with ticks at round distances. */
export function drawFrame(pen: Pen, level: Level): void {
  const { c, inks, view } = pen
  const { minX, minY, maxX, maxY } = level.settings.extent
  const x0 = X(pen, minX)
  const x1 = X(pen, maxX)
  const y0 = Y(pen, maxY)
  const y1 = Y(pen, minY)
  c.strokeStyle = inks.colour.ink
  c.lineWidth = 2
  c.strokeRect(x0 - 5, y0 - 5, x1 - x0 + 10, y1 - y0 + 10)
  c.lineWidth = 1
  c.strokeRect(x0, y0, x1 - x0, y1 - y0)
  const step = roundLength(70 / view.scale)
  c.beginPath()
  for (let x = Math.ceil(minX / step) * step; x <= maxX; x += step) {
    c.moveTo(X(pen, x), y0 - 5)
    c.lineTo(X(pen, x), y0)
    c.moveTo(X(pen, x), y1)
    c.lineTo(X(pen, x), y1 + 5)
  }
  for (let y = Math.ceil(minY / step) * step; y <= maxY; y += step) {
    c.moveTo(x0 - 5, Y(pen, y))
    c.lineTo(x0, Y(pen, y))
    c.moveTo(x1, Y(pen, y))
    c.lineTo(x1 + 5, Y(pen, y))
  }
  c.stroke()
}
