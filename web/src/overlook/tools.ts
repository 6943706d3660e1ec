import { mix3, type Point3 } from '@tidytrail/core/geometry'
import { heightAt, terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import * as THREE from 'three'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
import type { Paper } from './paper'

/** Lines lie this much above what they are drawn on, metres. */
export const ABOVE_M = 0.12

/** What parts of the Overlook are drawn with. */
export class OverlookTools {
  readonly origin: THREE.Vector3
  readonly resolution = new THREE.Vector2(1, 1)

  constructor(
    level: Level,
    readonly paper: Paper,
  ) {
    const { minX, maxX, minY, maxY } = level.settings.extent
    this.origin = new THREE.Vector3((minX + maxX) / 2, (minY + maxY) / 2, 0)
  }

  /** A place of the level, so far above it, where it is drawn. */
  local([x, y, z]: readonly number[], above = 0): THREE.Vector3 {
    return new THREE.Vector3(x - this.origin.x, y - this.origin.y, z - this.origin.z + above)
  }

  /** Line segments of a width in pixels, six numbers each. */
  fat(segments: number[], colour: THREE.Color, width: number, dashed = false): LineSegments2 {
    const material = new LineMaterial({ color: colour, linewidth: width, dashed, dashSize: 1.2, gapSize: 0.7 })
    material.resolution = this.resolution
    const line = new LineSegments2(new LineSegmentsGeometry().setPositions(segments), material)
    if (dashed) line.computeLineDistances()
    return line
  }

  ink(geometry: THREE.BufferGeometry, colour: THREE.Color, opacity = 1): THREE.LineSegments {
    return new THREE.LineSegments(
      geometry,
      new THREE.LineBasicMaterial({ color: colour, transparent: opacity < 1, opacity }),
    )
  }

  /** An outline draped over the ground, as segments. */
  drape(level: Level, ring: readonly (readonly number[])[]): number[] {
    const { field } = terrainOf(level)
    const segments: number[] = []
    for (let i = 0, j = ring.length - 1; i < ring.length; j = i++) {
      const length = Math.hypot(ring[i][0] - ring[j][0], ring[i][1] - ring[j][1])
      const pieces = Math.max(1, Math.min(80, Math.ceil(length / 2)))
      for (let k = 0; k < pieces; k++) {
        for (const t of [k / pieces, (k + 1) / pieces]) {
          const x = ring[j][0] + (ring[i][0] - ring[j][0]) * t
          const y = ring[j][1] + (ring[i][1] - ring[j][1]) * t
          segments.push(...this.local([x, y, heightAt(field, x, y)], ABOVE_M).toArray())
        }
      }
    }
    return segments
  }

  /** A straight stretch of a way, following the ground in between where it runs close to it. */
  along(level: Level, a: Point3, b: Point3, segments: number[]): void {
    const { field } = terrainOf(level)
    const pieces = Math.max(1, Math.min(60, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / 2)))
    const place = (t: number) => {
      const [x, y, z] = mix3(a, b, t)
      const ground = heightAt(field, x, y)
      return this.local([x, y, Math.abs(ground - z) < 1.2 || ground > z ? Math.max(ground, z) : z], ABOVE_M)
    }
    for (let k = 0; k < pieces; k++) segments.push(...place(k / pieces).toArray(), ...place((k + 1) / pieces).toArray())
  }

  /** A numbered disc that always faces the eye. */
  sprite(text: string, colour: THREE.Color): THREE.Sprite {
    const canvas = document.createElement('canvas')
    canvas.width = canvas.height = 64
    const c = canvas.getContext('2d')!
    c.beginPath()
    c.arc(32, 32, 27, 0, 7)
    c.fillStyle = `#${this.paper.colour.sheet.getHexString()}`
    c.fill()
    c.lineWidth = 6
    c.strokeStyle = `#${colour.getHexString()}`
    c.stroke()
    c.fillStyle = `#${this.paper.colour.ink.getHexString()}`
    c.font = `700 ${text.length > 2 ? 22 : 30}px 'Atkinson Hyperlegible', sans-serif`
    c.textAlign = 'center'
    c.textBaseline = 'middle'
    c.fillText(text, 32, 34)
    const map = new THREE.CanvasTexture(canvas)
    map.colorSpace = THREE.SRGBColorSpace
    const sprite = new THREE.Sprite(new THREE.SpriteMaterial({ map, sizeAttenuation: false }))
    sprite.scale.setScalar(0.032)
    return sprite
  }
}
