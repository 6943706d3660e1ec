<script setup lang="ts">
import { boxOf, toMillimetre } from '@tidytrail/core/geometry'
import { FORMAT_LIMITS, makeFromGeo, pictureHead, type GeoRead } from '@tidytrail/core/formats'
import { floorsAt, heightAt, terrainOf } from '@tidytrail/core/ground'
import {
  addThing,
  addThings,
  changeSettings,
  COVER_KINDS,
  freshName,
  setHeights,
  meshSchema,
  underlaySchema,
  type EditResult,
  type Level,
} from '@tidytrail/core/level'
import { useDebounceFn } from '@vueuse/core'
import { wrap, type Remote } from 'comlink'
import { computed, onBeforeUnmount, reactive, ref, shallowRef, watch } from 'vue'
import type { Viewport } from '../../map/viewport'
import { useAssetStore } from '../../stores/assets'
import { useLevelStore } from '../../stores/level'
import { randomId } from '../../stores/random-id'
import { useSheetStore } from '../../stores/sheet'
import { coverWord } from '../../kinds/cover/paint'
import AskDialog from '../../ui/AskDialog.vue'
import { count, metres } from '../../ui/figures'
import NumberField from '../../ui/NumberField.vue'
import { toast } from '../../ui/toasts'
import type { HeightsImport, Importer, MeshImport } from '../../workers/importer.protocol'
import ImportPreview from './ImportPreview.vue'

defineProps<{ view: Viewport }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const assets = useAssetStore()

type Kind = 'gltf' | 'obj' | 'png' | 'asc' | 'geo' | 'picture'
const KIND_WORDS: Record<Kind, string> = {
  gltf: 'glTF mesh',
  obj: 'OBJ mesh',
  png: 'height map (PNG)',
  asc: 'height map (Esri ASCII grid)',
  geo: 'GeoJSON',
  picture: 'underlay',
}
const file = shallowRef<File>()
const kind = ref<Kind>()
const bytes = shallowRef<Uint8Array<ArrayBuffer>>()
const reading = ref(false)
const sending = ref(false)
const error = ref('')
const mesh = shallowRef<MeshImport>()
const heights = shallowRef<HeightsImport>()
const geo = shallowRef<GeoRead>()
const picture = shallowRef<{ width: number; height: number; bitmap: ImageBitmap; grey16: boolean }>()

const extent = computed(() => levels.doc.settings.extent)
const form = reactive({
  upAxis: 'y' as 'y' | 'z',
  scale: 1,
  x: 0,
  y: 0,
  z: 0,
  spacingM: 1,
  lowM: 0,
  highM: 20,
  fitExtent: true,
  units: 'metres' as 'metres' | 'degrees',
  originLon: 0,
  originLat: 0,
  polygons: 'solids' as 'solids' | 'covers' | 'reachAreas' | 'nothing',
  lines: 'routes' as 'routes' | 'walls' | 'nothing',
  heightM: 4,
  wallM: 0.25,
  coverKind: 'road',
  widthM: 100,
})

let worker: Worker | undefined
let importer: Remote<Importer> | undefined
function ask(): Remote<Importer> {
  if (!importer) {
    worker = new Worker(new URL('../../workers/importer.worker.ts', import.meta.url), { type: 'module' })
    importer = wrap<Importer>(worker)
  }
  return importer
}
onBeforeUnmount(() => worker?.terminate())

async function take(of: File | null | undefined) {
  if (!of) return
  error.value = ''
  mesh.value = heights.value = geo.value = picture.value = undefined
  file.value = of
  kind.value = undefined
  try {
    if (of.size > FORMAT_LIMITS.fileBytes)
      throw new Error(
        `it has ${Math.round(of.size / 1048576)} MB; at most ${FORMAT_LIMITS.fileBytes / 1048576} MB are read`,
      )
    if (of.size === 0) throw new Error('it is empty')
    bytes.value = new Uint8Array(await of.arrayBuffer())
    kind.value = await kindOf(of.name, bytes.value)
  } catch (e) {
    error.value = (e as Error).message
    return
  }
  form.x = extent.value.minX
  form.y = extent.value.minY
  form.z = 0
  form.upAxis = kind.value === 'gltf' ? 'y' : form.upAxis
  form.widthM = Math.round(extent.value.maxX - extent.value.minX)
  await read(true)
}

async function kindOf(name: string, of: Uint8Array<ArrayBuffer>): Promise<Kind> {
  const ending = name.toLowerCase().split('.').at(-1)
  if (ending === 'glb' || ending === 'gltf') return 'gltf'
  if (ending === 'obj') return 'obj'
  if (ending === 'asc' || ending === 'grd') return 'asc'
  if (ending === 'geojson' || ending === 'json') return 'geo'
  if (ending === 'png' || ending === 'jpg' || ending === 'jpeg') {
    const head = pictureHead(of)
    const bitmap = await createImageBitmap(new Blob([of])).catch(() => {
      throw new Error('the picture is damaged or cut off')
    })
    const grey16 = head.grey && head.depth === 16
    picture.value = { width: head.width, height: head.height, bitmap, grey16 }
    return grey16 ? 'png' : 'picture'
  }
  throw new Error('files that can be read end in .glb, .gltf, .obj, .png, .jpg, .asc or .geojson')
}

let turn = 0
async function read(first = false) {
  const of = bytes.value
  if (!of || !kind.value || kind.value === 'picture') return
  const mine = ++turn
  reading.value = true
  error.value = ''
  try {
    if (kind.value === 'gltf' || kind.value === 'obj') {
      const got = await ask().mesh(kind.value, of, { upAxis: form.upAxis, scale: form.scale })
      if (mine !== turn) return
      mesh.value = got
      if (first) centre()
    } else if (kind.value === 'png' || kind.value === 'asc') {
      const got = await ask().heights(kind.value, of, { lowM: form.lowM, highM: form.highM })
      if (mine !== turn) return
      heights.value = got
      if (first && got.spacingM) form.spacingM = got.spacingM
    } else {
      const frame =
        form.units === 'metres'
          ? ({ units: 'metres' } as const)
          : ({ units: 'degrees', originLon: form.originLon, originLat: form.originLat } as const)
      const text = new TextDecoder().decode(of)
      if (first) guessFrame(text)
      const got = await ask().geo(
        text,
        first && form.units === 'degrees'
          ? { units: 'degrees', originLon: form.originLon, originLat: form.originLat }
          : frame,
      )
      if (mine !== turn) return
      geo.value = got
      if (first) form.x = form.y = 0
    }
  } catch (e) {
    if (mine !== turn) return
    mesh.value = heights.value = geo.value = undefined
    error.value = (e as Error).message
  } finally {
    if (mine === turn) reading.value = false
  }
}
const readSoon = useDebounceFn(() => void read(), 250)
watch(
  [
    () => form.upAxis,
    () => form.scale,
    () => form.lowM,
    () => form.highM,
    () => form.units,
    () => form.originLon,
    () => form.originLat,
  ],
  () => {
    if (kind.value === 'asc') return
    void readSoon()
  },
)
watch(kind, (now, before) => {
  // A grey picture of 16 bits may be heights or a plan: reading it the other way starts anew.
  if (before && now === 'png') void read(true)
  // What was read as heights must not be taken in as such when it is only to be traced.
  if (now === 'picture') heights.value = undefined
})

/** Coordinates that look like degrees are taken for such, about the first of them. */
function guessFrame(text: string) {
  const first = /\[\s*(-?\d+(?:\.\d+)?)\s*,\s*(-?\d+(?:\.\d+)?)/.exec(text)
  if (!first) return
  const [lon, lat] = [Number(first[1]), Number(first[2])]
  const decimals = /\.\d{4,}/.test(first[0])
  if (decimals && Math.abs(lon) <= 180 && Math.abs(lat) <= 90) {
    form.units = 'degrees'
    form.originLon = Math.round(lon * 1000) / 1000
    form.originLat = Math.round(lat * 1000) / 1000
  }
}

/** Puts a mesh in the middle of the level, its lowest point on the ground there. */
function centre() {
  const m = mesh.value
  if (!m) return
  const { minX, maxX, minY, maxY } = extent.value
  form.x = toMillimetre((minX + maxX) / 2 - (m.min[0] + m.max[0]) / 2)
  form.y = toMillimetre((minY + maxY) / 2 - (m.min[1] + m.max[1]) / 2)
  form.z = toMillimetre(heightAt(terrainOf(levels.doc).field, (minX + maxX) / 2, (minY + maxY) / 2) - m.min[2])
}
function asInFile() {
  form.x = form.y = form.z = 0
}

const repairs = computed(() => mesh.value?.repairs ?? heights.value?.repairs ?? geo.value?.repairs ?? [])
const facts = computed(() => {
  if (mesh.value) {
    const { min, max, triangles } = mesh.value
    return `${count(triangles, 'triangle')}, ${metres(max[0] - min[0])} × ${metres(max[1] - min[1])} and ${metres(max[2] - min[2])} high`
  }
  if (heights.value) {
    const h = heights.value
    return `${count(h.columns * h.rows, 'sample')}, ${metres((h.columns - 1) * form.spacingM)} × ${metres((h.rows - 1) * form.spacingM)}, from ${h.lowM.toFixed(2)} to ${h.highM.toFixed(2)} m`
  }
  if (geo.value) {
    const n = (shape: string) => geo.value!.features.filter((f) => f.shape === shape).length
    const parts = [
      [n('polygon'), 'polygon'],
      [n('line'), 'line'],
      [n('point'), 'point'],
    ] as const
    return parts
      .filter(([k]) => k > 0)
      .map(([k, word]) => count(k, word))
      .join(', ')
  }
  if (picture.value) return `${picture.value.width} × ${picture.value.height} pixels`
  return ''
})
const ready = computed(
  () =>
    !reading.value &&
    !sending.value &&
    !error.value &&
    (mesh.value || heights.value || geo.value || (kind.value === 'picture' && picture.value)),
)
const baseName = computed(() => (file.value?.name ?? 'Import').replace(/\.[^.]+$/, '').slice(0, 100))

/** What is drawn in the preview, in level metres. */
const shown = computed(() => {
  if (mesh.value) return { kind: 'mesh' as const, plan: mesh.value.plan, x: form.x, y: form.y }
  if (heights.value) {
    const h = heights.value
    const wide = (h.columns - 1) * form.spacingM
    const deep = (h.rows - 1) * form.spacingM
    return { kind: 'shade' as const, preview: h.preview, x: form.x, y: form.y, wide, deep }
  }
  if (geo.value) return { kind: 'shapes' as const, features: geo.value.features, x: form.x, y: form.y }
  if (kind.value === 'picture' && picture.value) {
    const wide = form.widthM
    return {
      kind: 'picture' as const,
      bitmap: picture.value.bitmap,
      x: form.x,
      y: form.y,
      wide,
      deep: (wide * picture.value.height) / picture.value.width,
    }
  }
  return undefined
})

async function carryOut() {
  sending.value = true
  try {
    if (mesh.value) {
      const assetId = await assets.put(mesh.value.packed)
      const id = randomId('meshes')
      const thing = meshSchema.parse({ name: freshNameOf('meshes'), assetId, at: [form.x, form.y, form.z] })
      levels.perform(addThing, { in: 'meshes', id, thing })
      sheet.choose([id])
    } else if (heights.value) {
      const h = heights.value
      const assetId = await assets.put(h.packed)
      const { x, y, spacingM } = form
      const wide = (h.columns - 1) * spacingM
      const deep = (h.rows - 1) * spacingM
      const steps: ((l: Level) => EditResult)[] = [
        (l) => setHeights.apply(l, { heights: { originX: x, originY: y, spacingM, rows: [], assetId, changed: {} } }),
      ]
      if (form.fitExtent) {
        const to = { minX: x, minY: y, maxX: x + wide, maxY: y + deep }
        steps.push((l) => changeSettings.apply(l, { set: { extent: to } }))
      }
      levels.together(`Import heights from ${file.value?.name ?? 'a file'}`, steps)
    } else if (geo.value) {
      const terrain = terrainOf(levels.doc)
      const zAt = (x: number, y: number) => toMillimetre(floorsAt(terrain, x, y).at(-1)!.z)
      const { polygons, lines, heightM, wallM, coverKind } = form
      const shift = [form.x, form.y] as const
      const things = makeFromGeo(
        geo.value.features,
        { polygons, lines, heightM, wallM, coverKind, shift },
        (k) => randomId(k),
        zAt,
      )
      if (things.length === 0) {
        error.value = 'Nothing would come of it: say what polygons and lines are to become.'
        return
      }
      levels.perform(addThings, { things, label: `Import ${file.value?.name ?? 'GeoJSON'}` })
      sheet.choose([])
    } else if (picture.value && bytes.value) {
      const assetId = await assets.put(bytes.value)
      const id = randomId('underlays')
      const metresPerPixel = form.widthM / picture.value.width
      const thing = underlaySchema.parse({
        name: freshNameOf('underlays'),
        assetId,
        at: [form.x, form.y],
        metresPerPixel,
      })
      levels.perform(addThing, { in: 'underlays', id, thing })
      sheet.choose([id])
    }
    toast(`${file.value?.name} was imported.`)
    sheet.importing = undefined
  } catch (e) {
    error.value = `It was not imported: ${(e as Error).message}`
  } finally {
    sending.value = false
  }
}
const freshNameOf = (c: 'meshes' | 'underlays') =>
  Object.values(levels.doc[c]).some((t) => t.name === baseName.value)
    ? freshName(levels.doc[c], baseName.value)
    : baseName.value

if (sheet.importing instanceof File) void take(sheet.importing)
const box = computed(() =>
  boxOf([
    [extent.value.minX, extent.value.minY],
    [extent.value.maxX, extent.value.maxY],
  ]),
)
const drop = ref(false)
</script>

<template>
  <AskDialog :open="true" wide title="Import" @close="sheet.importing = undefined">
    <div
      class="mt-2 border border-dashed border-faded px-3 py-2.5"
      :class="drop ? 'bg-tint' : ''"
      @dragover.prevent="drop = true"
      @dragleave="drop = false"
      @drop.prevent="((drop = false), take($event.dataTransfer?.files[0]))"
    >
      <label class="row">
        <span class="btn">Choose a file</span>
        <input
          type="file"
          class="sr-only"
          data-testid="import-file"
          accept=".glb,.gltf,.obj,.png,.jpg,.jpeg,.asc,.grd,.geojson,.json"
          @change="take(($event.target as HTMLInputElement).files?.[0])"
        />
        <span v-if="file" class="min-w-0 truncate" :title="file.name"
          ><b>{{ file.name }}</b
          >{{ kind ? `, ${KIND_WORDS[kind]}` : '' }}</span
        >
        <span v-else class="text-faded">or drop one here: glTF, OBJ, a height map, GeoJSON, or a plan to trace</span>
      </label>
    </div>
    <p v-if="error" class="mt-2 text-alarm" role="alert" data-testid="import-error">{{ error }}</p>
    <div v-if="kind" class="mt-3 grid grid-cols-[1fr_320px] gap-4">
      <div class="flex flex-col gap-2.5">
        <p v-if="picture?.grey16" class="row">
          <label class="row gap-1!"
            ><input v-model="kind" type="radio" value="png" class="accent-pine" /> heights</label
          >
          <label class="row gap-1!"
            ><input v-model="kind" type="radio" value="picture" class="accent-pine" /> a plan to trace</label
          >
        </p>
        <template v-if="kind === 'gltf' || kind === 'obj'">
          <fieldset class="row">
            <span class="label">up is</span>
            <label class="row gap-1!"
              ><input v-model="form.upAxis" type="radio" value="y" class="accent-pine" /> y</label
            >
            <label class="row gap-1!"
              ><input v-model="form.upAxis" type="radio" value="z" class="accent-pine" /> z</label
            >
          </fieldset>
          <div class="grid grid-cols-2 gap-3">
            <NumberField
              label="one unit is"
              unit="m"
              :digits="5"
              :min="0.00001"
              :max="10000"
              :value="form.scale"
              @change="(v) => (form.scale = v)"
            />
            <NumberField label="height" unit="m" :digits="3" :value="form.z" @change="(v) => (form.z = v)" />
            <NumberField label="east" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
            <NumberField label="north" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
          </div>
          <div class="row">
            <button class="btn" :disabled="!mesh" @click="centre">In the middle, on the ground</button>
            <button class="btn" @click="asInFile">As in the file</button>
          </div>
        </template>
        <template v-else-if="kind === 'png' || kind === 'asc'">
          <div class="grid grid-cols-2 gap-3">
            <NumberField
              label="between samples"
              unit="m"
              :digits="4"
              :min="0.01"
              :max="1000"
              :value="form.spacingM"
              @change="(v) => (form.spacingM = v)"
            />
            <span />
            <template v-if="kind === 'png'">
              <NumberField label="black is at" unit="m" :value="form.lowM" @change="(v) => (form.lowM = v)" />
              <NumberField label="white is at" unit="m" :value="form.highM" @change="(v) => (form.highM = v)" />
            </template>
            <NumberField label="west edge" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
            <NumberField label="south edge" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
          </div>
          <label class="row"
            ><input v-model="form.fitExtent" type="checkbox" class="accent-pine" /> make the level as large as these
            heights</label
          >
          <p v-if="levels.doc.ground.heights" class="text-[13px] text-ochre">They replace the heights there are.</p>
        </template>
        <template v-else-if="kind === 'geo'">
          <fieldset class="row">
            <span class="label">coordinates in</span>
            <label class="row gap-1!"
              ><input v-model="form.units" type="radio" value="metres" class="accent-pine" /> metres</label
            >
            <label class="row gap-1!"
              ><input v-model="form.units" type="radio" value="degrees" class="accent-pine" /> degrees</label
            >
          </fieldset>
          <div class="grid grid-cols-2 gap-3">
            <template v-if="form.units === 'degrees'">
              <NumberField
                label="origin, longitude"
                unit="°"
                :digits="5"
                :min="-180"
                :max="180"
                :value="form.originLon"
                @change="(v) => (form.originLon = v)"
              />
              <NumberField
                label="origin, latitude"
                unit="°"
                :digits="5"
                :min="-90"
                :max="90"
                :value="form.originLat"
                @change="(v) => (form.originLat = v)"
              />
            </template>
            <NumberField label="moved east" unit="m" :value="form.x" @change="(v) => (form.x = v)" />
            <NumberField label="moved north" unit="m" :value="form.y" @change="(v) => (form.y = v)" />
            <label class="block">
              <span class="label">polygons become</span>
              <select v-model="form.polygons" class="field" aria-label="Polygons become">
                <option value="solids">solids</option>
                <option value="covers">covers</option>
                <option value="reachAreas">reach areas</option>
                <option value="nothing">nothing</option>
              </select>
            </label>
            <label class="block">
              <span class="label">lines become</span>
              <select v-model="form.lines" class="field" aria-label="Lines become">
                <option value="routes">routes</option>
                <option value="walls">walls</option>
                <option value="nothing">nothing</option>
              </select>
            </label>
            <NumberField
              v-if="form.polygons === 'solids' || form.lines === 'walls'"
              label="height where none is given"
              unit="m"
              :min="0.05"
              :value="form.heightM"
              @change="(v) => (form.heightM = v)"
            />
            <NumberField
              v-if="form.lines === 'walls'"
              label="walls as thick as"
              unit="m"
              :min="0.02"
              :value="form.wallM"
              @change="(v) => (form.wallM = v)"
            />
            <label v-if="form.polygons === 'covers'" class="block">
              <span class="label">kind of cover</span>
              <select v-model="form.coverKind" class="field" aria-label="Kind of cover">
                <option v-for="k in COVER_KINDS" :key="k" :value="k">{{ coverWord(k) }}</option>
              </select>
            </label>
          </div>
        </template>
        <template v-else>
          <div class="grid grid-cols-2 gap-3">
            <NumberField
              label="as wide as"
              unit="m"
              :min="0.1"
              :value="form.widthM"
              @change="(v) => (form.widthM = v)"
            />
            <span />
            <NumberField label="west edge" unit="m" :digits="3" :value="form.x" @change="(v) => (form.x = v)" />
            <NumberField label="south edge" unit="m" :digits="3" :value="form.y" @change="(v) => (form.y = v)" />
          </div>
          <p class="text-[13px] text-faded">Afterwards two places whose distance you know place it exactly.</p>
        </template>
      </div>
      <div>
        <ImportPreview :extent="box" :shown="shown" />
        <p class="mt-1 text-[13px]" data-testid="import-facts">{{ reading ? 'Reading …' : facts }}</p>
      </div>
    </div>
    <ul v-if="repairs.length > 0" class="mt-2 max-h-[90px] overflow-y-auto text-[13px] text-ochre">
      <li v-for="r in repairs.slice(0, 40)" :key="r">{{ r }}</li>
      <li v-if="repairs.length > 40">and {{ repairs.length - 40 }} more</li>
    </ul>
    <div class="mt-4 flex gap-2">
      <button class="btn btn-main" :disabled="!ready" @click="carryOut">
        {{ sending ? 'Importing …' : 'Import' }}
      </button>
      <button class="btn" @click="sheet.importing = undefined">Cancel</button>
    </div>
  </AskDialog>
</template>
