import { heightAt, meshAsset, terrainOf } from '@tidytrail/core/ground'
import type { Level } from '@tidytrail/core/level'
import { passageHeight } from '@tidytrail/core/reach'
import { mix3, type Point3 } from '@tidytrail/core/geometry'
import * as THREE from 'three'
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js'
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js'
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js'
import { coverLook } from '../kinds/cover/draw'
import { roundLength } from '../map/viewport'
import type { RouteWays, Stipple } from '../workers/surveyor.protocol'
import { groundGeometry } from './ground'
import { groundMaterial, paperMaterial, type Paper } from './paper'
import { solidsGeometry } from '../kinds/solid/geometry'

/** Lines lie this much above what they are drawn on, metres. */
const ABOVE_M = 0.12
/** Least height of an agent, as a share of how far away it is: about fourteen pixels. */
const FAR_AGENT = 0.0145

/** The ink each kind of route is drawn in, as on the map. */
const KIND_INK = { patrol: 'rust', lane: 'lake', circuit: 'plum', mission: 'ochre', network: 'pine' } as const

/** Everything in the Overlook, part by part, so that only what changed is made anew. */
export class OverlookScene {
  readonly scene = new THREE.Scene()
  readonly origin: THREE.Vector3
  readonly resolution = new THREE.Vector2(1, 1)
  private readonly parts = new Map<string, THREE.Object3D>()
  /** Which solid each triangle of the solids is of. */
  private solidOwner: readonly string[] = []

  constructor(
    level: Level,
    private readonly paper: Paper,
  ) {
    const { minX, maxX, minY, maxY } = level.settings.extent
    this.origin = new THREE.Vector3((minX + maxX) / 2, (minY + maxY) / 2, 0)
    this.scene.background = paper.colour.desk
  }

  local([x, y, z]: readonly number[], above = 0): THREE.Vector3 {
    return new THREE.Vector3(x - this.origin.x, y - this.origin.y, z - this.origin.z + above)
  }

  private put(name: string, object: THREE.Object3D | undefined): void {
    const old = this.parts.get(name)
    if (old) {
      this.scene.remove(old)
      old.traverse((o) => {
        const { geometry, material } = o as THREE.Mesh
        geometry?.dispose()
        for (const m of Array.isArray(material) ? material : [material]) m?.dispose()
      })
    }
    this.parts.delete(name)
    if (!object) return
    object.name = name
    this.parts.set(name, object)
    this.scene.add(object)
  }

  private fat(segments: number[], colour: THREE.Color, width: number, dashed = false): LineSegments2 {
    const material = new LineMaterial({ color: colour, linewidth: width, dashed, dashSize: 1.2, gapSize: 0.7 })
    material.resolution = this.resolution
    const line = new LineSegments2(new LineSegmentsGeometry().setPositions(segments), material)
    if (dashed) line.computeLineDistances()
    return line
  }

  private ink(geometry: THREE.BufferGeometry, colour: THREE.Color, opacity = 1): THREE.LineSegments {
    return new THREE.LineSegments(
      geometry,
      new THREE.LineBasicMaterial({ color: colour, transparent: opacity < 1, opacity }),
    )
  }

  showGround(level: Level): void {
    const { top, rim, lowM, highM } = groundGeometry(level, this.origin)
    const group = new THREE.Group()
    const seen = highM - Math.max(lowM, level.settings.waterLevelM ?? lowM)
    const ground = new THREE.Mesh(top, groundMaterial(this.paper, roundLength(Math.max(0.25, seen / 20))))
    ground.name = 'ground'
    group.add(ground)
    group.add(new THREE.Mesh(rim, paperMaterial(this.paper.colour.paper, this.paper.colour.ink)))
    if (level.settings.waterLevelM !== null) {
      const { minX, maxX, minY, maxY } = level.settings.extent
      const water = new THREE.Mesh(
        new THREE.PlaneGeometry(maxX - minX, maxY - minY),
        new THREE.MeshBasicMaterial({
          color: this.paper.colour.lake,
          transparent: true,
          opacity: 0.3,
          depthWrite: false,
        }),
      )
      water.position.z = level.settings.waterLevelM - this.origin.z
      group.add(water)
    }
    this.put('ground', group)
  }

  showSolids(level: Level): void {
    const { faces, edges, owner } = solidsGeometry(level, this.origin)
    this.solidOwner = owner
    const group = new THREE.Group()
    const body = new THREE.Mesh(faces, paperMaterial(this.paper.colour.sheet, this.paper.colour.ink))
    body.name = 'solids'
    group.add(body, this.ink(edges, this.paper.colour.ink))
    this.put('solids', owner.length > 0 ? group : undefined)
  }

  showMeshes(level: Level): void {
    const group = new THREE.Group()
    for (const [id, mesh] of Object.entries(level.meshes)) {
      const asset = meshAsset(mesh.assetId)
      if (!asset || mesh.hidden) continue
      const geometry = new THREE.BufferGeometry()
      geometry.setAttribute('position', new THREE.BufferAttribute(asset.data.positions, 3))
      geometry.setIndex(new THREE.BufferAttribute(asset.data.indices, 1))
      const flat = geometry.toNonIndexed()
      flat.computeVertexNormals()
      const body = new THREE.Mesh(flat, paperMaterial(this.paper.colour.sheet, this.paper.colour.ink))
      body.name = id
      const holder = new THREE.Group()
      holder.add(body)
      if (asset.data.indices.length < 180_000) {
        holder.add(this.ink(new THREE.EdgesGeometry(geometry, 25), this.paper.colour.ink, 0.8))
      }
      geometry.dispose()
      holder.position.copy(this.local(mesh.at))
      holder.rotation.z = mesh.turnRad
      holder.scale.setScalar(mesh.scale)
      group.add(holder)
    }
    this.put('meshes', group)
  }

  /** Outlines of covers and areas, draped over the ground. */
  showCovers(level: Level): void {
    const group = new THREE.Group()
    const { field } = terrainOf(level)
    const drape = (ring: readonly (readonly number[])[]) => {
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
    for (const c of Object.values(level.covers)) {
      if (!c.hidden) group.add(this.fat(drape(c.ring), this.paper.colour[coverLook(c.kind).rim], 2))
    }
    for (const a of Object.values(level.reachAreas)) {
      if (!a.hidden) group.add(this.fat(drape(a.ring), this.paper.colour.pine, 2, true))
    }
    this.put('covers', group)
  }

  showReach(stipple: Stipple | undefined): void {
    if (!stipple || stipple.places.length === 0) return this.put('reach', undefined)
    const { places, islands } = stipple
    const { pine, plum, ochre, lake, rust } = this.paper.colour
    const inks = [pine, plum, ochre, lake, rust]
    const positions = new Float32Array(places.length)
    const colours = new Float32Array(places.length)
    for (let k = 0; k < islands.length; k++) {
      positions[k * 3] = places[k * 3] - this.origin.x
      positions[k * 3 + 1] = places[k * 3 + 1] - this.origin.y
      positions[k * 3 + 2] = places[k * 3 + 2] - this.origin.z + 0.07
      inks[islands[k] % inks.length].toArray(colours, k * 3)
    }
    const geometry = new THREE.BufferGeometry()
    geometry.setAttribute('position', new THREE.BufferAttribute(positions, 3))
    geometry.setAttribute('color', new THREE.BufferAttribute(colours, 3))
    const material = new THREE.PointsMaterial({ size: 0.16, vertexColors: true, transparent: true, opacity: 0.75 })
    // Round dots, as a pen makes them.
    material.onBeforeCompile = (shader) => {
      shader.fragmentShader = shader.fragmentShader.replace(
        '#include <color_fragment>',
        '#include <color_fragment>\nif (distance(gl_PointCoord, vec2(0.5)) > 0.5) discard;',
      )
    }
    this.put('reach', new THREE.Points(geometry, material))
  }

  showRoutes(level: Level, ways: ReadonlyMap<string, RouteWays>): void {
    const group = new THREE.Group()
    for (const [id, route] of Object.entries(level.routes)) {
      if (route.hidden) continue
      const segments: number[] = []
      for (const way of ways.get(id)?.ways ?? []) {
        if (!way.found) continue
        for (let i = 1; i < way.line.length; i++) this.along(level, way.line[i - 1], way.line[i], segments)
      }
      for (const linkId of route.linkIds) {
        const { fromId, toId } = level.links[linkId]
        this.along(level, level.waypoints[fromId].at, level.waypoints[toId].at, segments)
      }
      const ink = this.paper.colour[KIND_INK[route.kind]]
      if (segments.length > 0) group.add(this.fat(segments, ink, 3, route.kind === 'patrol'))
      route.order.forEach((stopId, k) => {
        const { at } = level.waypoints[route.stops[stopId].waypointId]
        if (group.children.length > 1500) return
        const blaze = this.sprite(String(k + 1), ink)
        blaze.position.copy(this.local(at, 0.3))
        blaze.center.set(0.5, 0)
        blaze.name = stopId
        group.add(blaze)
      })
    }
    this.put('routes', group)
  }

  /** A straight stretch of a way, following the ground in between where it runs close to it. */
  private along(level: Level, a: Point3, b: Point3, segments: number[]): void {
    const { field } = terrainOf(level)
    const pieces = Math.max(1, Math.min(60, Math.ceil(Math.hypot(b[0] - a[0], b[1] - a[1]) / 2)))
    const place = (t: number) => {
      const [x, y, z] = mix3(a, b, t)
      const ground = heightAt(field, x, y)
      return this.local([x, y, Math.abs(ground - z) < 1.2 || ground > z ? Math.max(ground, z) : z], ABOVE_M)
    }
    for (let k = 0; k < pieces; k++) segments.push(...place(k / pieces).toArray(), ...place((k + 1) / pieces).toArray())
  }

  showPassages(level: Level): void {
    const group = new THREE.Group()
    for (const [id, p] of Object.entries(level.passages)) {
      if (p.hidden) continue
      const segments: number[] = []
      const place = (t: number) => {
        const [x, y] = mix3(p.from, p.to, t)
        return this.local([x, y, passageHeight(p.kind, p.from, p.to, t)], ABOVE_M)
      }
      for (let k = 0; k < 16; k++) segments.push(...place(k / 16).toArray(), ...place((k + 1) / 16).toArray())
      const bow = this.fat(segments, this.paper.colour.plum, 4, p.state !== 'open')
      bow.name = id
      group.add(bow)
    }
    this.put('passages', group)
  }

  /** Spawners as standing drops, and the agents of the rehearsal. */
  showCast(
    level: Level,
    agents: readonly { id: string; at: Point3; heading: number; radiusM: number; heightM: number }[],
  ): void {
    const group = new THREE.Group()
    for (const [id, s] of Object.entries(level.spawners)) {
      if (s.hidden) continue
      const gate = new THREE.Mesh(
        new THREE.TorusGeometry(0.9, 0.07, 6, 24, Math.PI),
        new THREE.MeshBasicMaterial({ color: this.paper.colour.ink }),
      )
      gate.rotation.set(Math.PI / 2, s.facingRad + Math.PI / 2, 0, 'XYZ')
      gate.position.copy(this.local(s.at, 0.02))
      gate.name = id
      group.add(gate)
    }
    for (const a of agents) {
      const body = new THREE.Mesh(dropGeometry(), paperMaterial(this.paper.colour.rust, this.paper.colour.ink))
      body.userData = { radiusM: a.radiusM, heightM: a.heightM }
      body.rotation.z = a.heading
      body.position.copy(this.local(a.at))
      body.name = a.id
      group.add(body)
    }
    this.put('cast', group)
  }

  /** Sizes agents so that they are seen from afar too, and leaves out the one whose eyes one looks through. */
  fitAgents(camera: THREE.Camera, hidden: string | undefined): void {
    for (const body of this.parts.get('cast')?.children ?? []) {
      const { radiusM, heightM } = body.userData as { radiusM?: number; heightM?: number }
      if (radiusM === undefined || heightM === undefined) continue
      const k = Math.max(1, (FAR_AGENT * camera.position.distanceTo(body.position)) / heightM)
      body.scale.set(radiusM * k, radiusM * k, heightM * k)
      body.visible = body.name !== hidden
    }
  }

  showChosen(level: Level, ids: readonly string[]): void {
    const group = new THREE.Group()
    const wanted = new Set(ids)
    const { edges } = solidsGeometry(level, this.origin, wanted)
    const of = edges.getAttribute('position')
    if (of.count > 0) group.add(this.fat(Array.from(of.array), this.paper.colour.rust, 3.5))
    for (const mesh of terrainOf(level).meshes) {
      if (!wanted.has(mesh.id)) continue
      const box = new THREE.Box3(
        this.local([mesh.box.minX, mesh.box.minY, mesh.lowM]),
        this.local([mesh.box.maxX, mesh.box.maxY, mesh.highM]),
      )
      group.add(new THREE.Box3Helper(box, this.paper.colour.rust))
    }
    for (const id of ids) {
      const at = placeOf(level, id)
      if (!at) continue
      const ring = new THREE.Mesh(
        new THREE.RingGeometry(0.55, 0.75, 28),
        new THREE.MeshBasicMaterial({ color: this.paper.colour.rust, side: THREE.DoubleSide }),
      )
      ring.position.copy(this.local(at, ABOVE_M))
      group.add(ring)
    }
    this.put('chosen', group)
  }

  private sprite(text: string, colour: THREE.Color): THREE.Sprite {
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

  /** The thing a ray meets first. */
  pick(ray: THREE.Raycaster): string | undefined {
    for (const hit of ray.intersectObjects([...this.parts.values()], true)) {
      const { name, parent } = hit.object
      if (parent?.name === 'chosen' || name === '' || name === 'reach') continue
      if (name === 'ground') return undefined
      if (name === 'solids') return this.solidOwner[hit.faceIndex ?? -1]
      return name
    }
    return undefined
  }

  dispose(): void {
    for (const name of [...this.parts.keys()]) this.put(name, undefined)
  }
}

/** Where something that has one place stands. */
export function placeOf(level: Level, id: string): Point3 | undefined {
  const direct = level.spawners[id] ?? level.posts[id] ?? level.markers[id] ?? level.waypoints[id]
  if (direct) return direct.at
  for (const route of Object.values(level.routes)) {
    const stop = route.stops[id]
    if (stop) return level.waypoints[stop.waypointId].at
  }
  return undefined
}

let drop: THREE.BufferGeometry | undefined
/** A drop standing up, a metre high and pointing along +x. */
function dropGeometry(): THREE.BufferGeometry {
  if (!drop) {
    const body = new THREE.SphereGeometry(1, 14, 10)
    body.scale(1, 1, 0.5)
    body.translate(0, 0, 0.5)
    const position = body.getAttribute('position')
    for (let k = 0; k < position.count; k++) if (position.getX(k) > 0) position.setX(k, position.getX(k) * 1.9)
    body.computeVertexNormals()
    drop = body
  }
  return drop.clone()
}
