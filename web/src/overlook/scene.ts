import type { Point3 } from '@tidytrail/core/geometry'
import { standsOnFloor, terrainOf } from '@tidytrail/core/ground'
import { carriersOf, pointsOf, type Faction, type Level } from '@tidytrail/core/level'
import * as THREE from 'three'
import { roundLength } from '../map/viewport'
import type { Stipple } from '../workers/surveyor.protocol'
import { groundGeometry } from './ground'
import { groundMaterial, paperMaterial, type Paper } from './paper'
import { OF_A_PART, type OverlookContext, type OverlookPart } from './part'
import { ABOVE_M, OverlookTools } from './tools'

/** What is seen is drawn so far above the floor, metres. */
const SENSES_ABOVE_M = 0.15
/** Least height of an agent, as a share of how far away it is: about fourteen pixels. */
const FAR_AGENT = 0.0145

/** Everything in the Overlook, part by part, so that only what changed is made anew. */
export class OverlookScene {
  readonly scene = new THREE.Scene()
  readonly tools: OverlookTools
  private readonly objects = new Map<string, THREE.Object3D>()
  /** What each part read when it was built. */
  private readonly read = new Map<string, readonly unknown[]>()

  constructor(
    level: Level,
    paper: Paper,
    private readonly parts: ReadonlyMap<string, OverlookPart>,
  ) {
    this.tools = new OverlookTools(level, paper)
    this.scene.background = paper.colour.desk
  }

  get origin(): THREE.Vector3 {
    return this.tools.origin
  }

  local(at: readonly number[], above = 0): THREE.Vector3 {
    return this.tools.local(at, above)
  }

  private put(name: string, object: THREE.Object3D | undefined): void {
    const old = this.objects.get(name)
    if (old) {
      this.scene.remove(old)
      old.traverse((o) => {
        const { geometry, material } = o as THREE.Mesh
        geometry?.dispose()
        for (const m of Array.isArray(material) ? material : [material]) m?.dispose()
      })
    }
    this.objects.delete(name)
    if (!object) return
    object.name = name
    this.objects.set(name, object)
    this.scene.add(object)
  }

  /** Builds anew the parts that have read something which is now another. */
  showParts(level: Level, context: OverlookContext): void {
    for (const [name, part] of this.parts) {
      const reads = part.reads(level, context)
      const before = this.read.get(name)
      if (before?.every((value, k) => value === reads[k])) continue
      this.read.set(name, reads)
      this.put(name, part.build(this.tools, level, context))
    }
  }

  showGround(level: Level): void {
    const { top, rim, lowM, highM } = groundGeometry(level, this.tools.origin)
    const group = new THREE.Group()
    const seen = highM - Math.max(lowM, level.settings.waterLevelM ?? lowM)
    const ground = new THREE.Mesh(top, groundMaterial(this.tools.paper, roundLength(Math.max(0.25, seen / 20))))
    ground.name = 'ground'
    group.add(ground)
    group.add(new THREE.Mesh(rim, paperMaterial(this.tools.paper.colour.paper, this.tools.paper.colour.ink)))
    if (level.settings.waterLevelM !== null) {
      const { minX, maxX, minY, maxY } = level.settings.extent
      const water = new THREE.Mesh(
        new THREE.PlaneGeometry(maxX - minX, maxY - minY),
        new THREE.MeshBasicMaterial({
          color: this.tools.paper.colour.lake,
          transparent: true,
          opacity: 0.3,
          depthWrite: false,
        }),
      )
      water.position.z = level.settings.waterLevelM - this.tools.origin.z
      group.add(water)
    }
    this.put('ground', group)
  }

  showReach(stipple: Stipple | undefined): void {
    if (!stipple || stipple.places.length === 0) return this.put('reach', undefined)
    const { places, islands } = stipple
    const { pine, plum, ochre, lake, rust } = this.tools.paper.colour
    const inks = [pine, plum, ochre, lake, rust]
    const positions = new Float32Array(places.length)
    const colours = new Float32Array(places.length)
    for (let k = 0; k < islands.length; k++) {
      positions[k * 3] = places[k * 3] - this.tools.origin.x
      positions[k * 3 + 1] = places[k * 3 + 1] - this.tools.origin.y
      positions[k * 3 + 2] = places[k * 3 + 2] - this.tools.origin.z + 0.07
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

  /** The agents of the rehearsal. */
  showAgents(
    agents: readonly {
      id: string
      at: Point3
      heading: number
      radiusM: number
      heightM: number
      look: Pick<Faction, 'ink' | 'pattern'>
    }[],
  ): void {
    const group = new THREE.Group()
    for (const a of agents) {
      const { colour } = this.tools.paper
      const marked = { pattern: a.look.pattern, second: colour.sheet }
      const body = new THREE.Mesh(dropGeometry(), paperMaterial(colour[a.look.ink], colour.ink, marked))
      body.userData = { radiusM: a.radiusM, heightM: a.heightM }
      body.rotation.z = a.heading
      body.position.copy(this.local(a.at))
      body.name = a.id
      group.add(body)
    }
    this.put('agents', group)
  }

  /** What agents see, as washes on the floor they stand on: the corners of each wedge, the looker first. */
  showSenses(wedges: readonly { readonly corners: Float64Array; readonly z: number }[]): void {
    if (wedges.length === 0) return this.put('senses', undefined)
    const places: number[] = []
    const rims: number[] = []
    for (const { corners, z } of wedges) {
      const at = (k: number) => this.local([corners[2 * k], corners[2 * k + 1], z], SENSES_ABOVE_M).toArray()
      for (let k = 1; k < corners.length / 2 - 1; k++) {
        places.push(...at(0), ...at(k), ...at(k + 1))
        rims.push(...at(k), ...at(k + 1))
      }
      rims.push(...at(0), ...at(1), ...at(0), ...at(corners.length / 2 - 1))
    }
    const made = (numbers: number[]) =>
      new THREE.BufferGeometry().setAttribute('position', new THREE.Float32BufferAttribute(numbers, 3))
    const color = this.tools.paper.colour.lake
    const group = new THREE.Group()
    const wash = { color, transparent: true, opacity: 0.22, depthWrite: false, side: THREE.DoubleSide }
    group.add(new THREE.Mesh(made(places), new THREE.MeshBasicMaterial(wash)))
    group.add(new THREE.LineSegments(made(rims), new THREE.LineBasicMaterial({ color })))
    this.put('senses', group)
  }

  /** Sizes agents so that they are seen from afar too, and leaves out the one whose eyes one looks through. */
  fitAgents(camera: THREE.Camera, hidden: string | undefined): void {
    for (const body of this.objects.get('agents')?.children ?? []) {
      const { radiusM, heightM } = body.userData as { radiusM?: number; heightM?: number }
      if (radiusM === undefined || heightM === undefined) continue
      const k = Math.max(1, (FAR_AGENT * camera.position.distanceTo(body.position)) / Math.max(heightM, 2 * radiusM))
      body.scale.set(radiusM * k, radiusM * k, heightM * k)
      body.visible = body.name !== hidden
    }
  }

  showChosen(level: Level, ids: readonly string[]): void {
    const group = new THREE.Group()
    const wanted = new Set(ids)
    for (const part of this.parts.values()) {
      const edges = part.edges?.(this.tools, level, wanted)
      if (edges) group.add(edges)
    }
    for (const mesh of terrainOf(level).meshes) {
      if (!wanted.has(mesh.id)) continue
      const box = new THREE.Box3(
        this.local([mesh.box.minX, mesh.box.minY, mesh.lowM]),
        this.local([mesh.box.maxX, mesh.box.maxY, mesh.highM]),
      )
      group.add(new THREE.Box3Helper(box, this.tools.paper.colour.rust))
    }
    for (const id of ids) {
      const at = placeOf(level, id)
      if (!at) continue
      const ring = new THREE.Mesh(
        new THREE.RingGeometry(0.55, 0.75, 28),
        new THREE.MeshBasicMaterial({ color: this.tools.paper.colour.rust, side: THREE.DoubleSide }),
      )
      ring.position.copy(this.local(at, ABOVE_M))
      group.add(ring)
    }
    this.put('chosen', group)
  }

  /** The thing a ray meets first. */
  pick(ray: THREE.Raycaster): string | undefined {
    for (const hit of ray.intersectObjects([...this.objects.values()], true)) {
      const { name, parent } = hit.object
      if (parent?.name === 'chosen' || name === '' || name === 'reach' || name === 'senses') continue
      if (name === 'ground') return undefined
      if (name === OF_A_PART) return this.parts.get(parent!.name)?.ownerOf?.(hit.faceIndex ?? -1)
      return name
    }
    return undefined
  }

  dispose(): void {
    for (const name of [...this.objects.keys()]) this.put(name, undefined)
  }
}

/** Where something that stands on one place does so. */
export function placeOf(level: Level, id: string): Point3 | undefined {
  const carriers = carriersOf(level, id)
  if (carriers.length !== 1 || !standsOnFloor(carriers[0].in)) return undefined
  return pointsOf(level, id)[0] as Point3
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
