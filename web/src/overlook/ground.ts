import { heightAt, terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import * as THREE from 'three'

const MOST_A_SIDE = 420

/** The ground within the extent as a sheet of triangles, and the cut faces round it down to a base. */
export function groundGeometry(
  level: Level,
  origin: THREE.Vector3,
): { top: THREE.BufferGeometry; rim: THREE.BufferGeometry; lowM: number; highM: number } {
  const { minX, minY, maxX, maxY } = level.settings.extent
  const { field } = terrainOf(level)
  const flat = field.columns === 2 && field.rows === 2
  const step = Math.max(field.spacingM, (maxX - minX) / MOST_A_SIDE, (maxY - minY) / MOST_A_SIDE)
  const columns = flat ? 2 : Math.max(2, Math.ceil((maxX - minX) / step) + 1)
  const rows = flat ? 2 : Math.max(2, Math.ceil((maxY - minY) / step) + 1)
  const positions = new Float32Array(columns * rows * 3)
  let lowM = Infinity
  let highM = -Infinity
  for (let j = 0, k = 0; j < rows; j++) {
    for (let i = 0; i < columns; i++, k += 3) {
      const x = minX + ((maxX - minX) * i) / (columns - 1)
      const y = minY + ((maxY - minY) * j) / (rows - 1)
      const z = heightAt(field, x, y)
      lowM = Math.min(lowM, z)
      highM = Math.max(highM, z)
      positions[k] = x - origin.x
      positions[k + 1] = y - origin.y
      positions[k + 2] = z - origin.z
    }
  }
  const index: number[] = []
  for (let j = 0; j + 1 < rows; j++) {
    for (let i = 0; i + 1 < columns; i++) {
      const a = j * columns + i
      index.push(a, a + 1, a + columns + 1, a, a + columns + 1, a + columns)
    }
  }
  const top = new THREE.BufferGeometry()
  top.setAttribute('position', new THREE.BufferAttribute(positions, 3))
  top.setIndex(index)
  top.computeVertexNormals()

  const base = Math.min(lowM, level.settings.waterLevelM ?? lowM) - Math.max(2, 0.02 * (maxX - minX)) - origin.z
  const rimPositions: number[] = []
  const side = (k: number, l: number) => {
    const [ax, ay, az, bx, by, bz] = [...positions.subarray(k * 3, k * 3 + 3), ...positions.subarray(l * 3, l * 3 + 3)]
    rimPositions.push(ax, ay, base, bx, by, base, bx, by, bz, ax, ay, base, bx, by, bz, ax, ay, az)
  }
  for (let i = 0; i + 1 < columns; i++) {
    side(i, i + 1)
    side((rows - 1) * columns + i + 1, (rows - 1) * columns + i)
  }
  for (let j = 0; j + 1 < rows; j++) {
    side((j + 1) * columns, j * columns)
    side(j * columns + columns - 1, (j + 1) * columns + columns - 1)
  }
  const rim = new THREE.BufferGeometry()
  rim.setAttribute('position', new THREE.Float32BufferAttribute(rimPositions, 3))
  rim.computeVertexNormals()
  return { top, rim, lowM, highM }
}
