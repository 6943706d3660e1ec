<script setup lang="ts">
import { ENDINGS, FORMAT_LIMITS, formatsOf, isZip, mainsOf, type Format, type GivenFile } from '@tidytrail/core/formats'
import { useDebounceFn } from '@vueuse/core'
import { computed, onBeforeUnmount, reactive, ref, shallowRef, watch } from 'vue'
import type { Viewport } from '../../map/viewport'
import { useAssetStore } from '../../stores/assets'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { count } from '../../ui/figures'
import AskDialog from '../../ui/AskDialog.vue'
import { filesChosen, filesDropped, type LooseFile } from '../../ui/loose-files'
import { toast } from '../../ui/toasts'
import { hire, type Hired } from '../../workers/hired'
import type { Importer } from '../../workers/importer.protocol'
import { newForm, type ImportFile } from './import-form'
import ImportPreview from './ImportPreview.vue'
import { importOf } from './list'

defineProps<{ view: Viewport }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const assets = useAssetStore()

const file = shallowRef<ImportFile>()
/** The formats the file may be of, and the one it is read as. */
const formats = shallowRef<readonly Format[]>([])
const format = shallowRef<Format>()
const reading = ref(false)
const sending = ref(false)
const error = ref('')
/** What has been read, as the format gives it. */
const got = shallowRef<unknown>()
const form = reactive(newForm())
const how = computed(() => format.value && importOf(format.value))

let hired: Hired<Importer> | undefined
function importer(): Hired<Importer> {
  hired ??= hire<Importer>(
    new Worker(new URL('../../workers/importer.worker.ts', import.meta.url), { type: 'module' }),
    (why) => {
      hired = undefined
      reading.value = false
      error.value = `The file could not be read: ${why}`
    },
  )
  return hired
}
onBeforeUnmount(() => hired?.end())

const MB = 1024 * 1024
/** All files that were given, those of archives too, and those of them that can be imported. */
const given = shallowRef<readonly GivenFile[]>([])
const mains = shallowRef<readonly GivenFile[]>([])

/** Takes files that were chosen or dropped together: one of them is imported, and may need the others. */
async function take(list: readonly LooseFile[] | Promise<readonly LooseFile[]>) {
  error.value = ''
  file.value = got.value = format.value = undefined
  formats.value = given.value = mains.value = []
  try {
    const loose = await list
    if (loose.length === 0) return
    const bytes = loose.reduce((sum, { file: f }) => sum + f.size, 0)
    file.value = { name: loose[0].file.name, bytes: new Uint8Array(), beside: [] }
    if (bytes > FORMAT_LIMITS.fileBytes)
      throw new Error(
        `${loose.length === 1 ? 'it has' : 'together they have'} ${Math.round(bytes / MB)} MB; at most ${FORMAT_LIMITS.fileBytes / MB} MB are read`,
      )
    if (bytes === 0) throw new Error('it is empty')
    given.value = (await Promise.all(loose.map(opened))).flat()
    mains.value = mainsOf(given.value)
    // With nothing to be read among them, the first one is told what can be.
    await choose(mains.value[0] ?? given.value[0])
  } catch (e) {
    error.value = (e as Error).message
  }
}

async function opened({ path, file: f }: LooseFile): Promise<readonly GivenFile[]> {
  const bytes = new Uint8Array(await f.arrayBuffer())
  if (!isZip(bytes)) return [{ path, bytes }]
  const { remote, ask } = importer()
  let failure: unknown
  const unpacked = await ask(remote.unpack(bytes).catch((e: unknown) => void (failure = e)))
  if (failure) throw failure as Error
  return unpacked ?? []
}

/** Takes one of the files that were given. */
async function choose(main: GivenFile) {
  error.value = ''
  got.value = format.value = undefined
  const beside = given.value.filter((f) => f !== main)
  file.value = { name: main.path.split('/').at(-1)!, bytes: main.bytes, beside }
  try {
    formats.value = formatsOf(main.path, main.bytes)
  } catch (e) {
    error.value = (e as Error).message
    return
  }
  const { minX, minY, maxX } = levels.doc.settings.extent
  // Nothing said of another file holds of this one.
  Object.assign(form, newForm(), { x: minX, y: minY, widthM: Math.round(maxX - minX) })
  await readAs(formats.value[0])
}

/** Reads the file anew as of a format: a grey picture may be heights or a plan. */
async function readAs(next: Format) {
  format.value = next
  got.value = undefined
  settled = false
  await read()
}

let turn = 0
/** Has what the file itself says been taken into the form? */
let settled = false
async function read() {
  if (!file.value || !format.value || !how.value) return
  const mine = ++turn
  reading.value = true
  error.value = ''
  const { remote, ask } = importer()
  let failure: unknown
  const result = await ask(
    how.value.read(remote, format.value, file.value, form, !settled).catch((e: unknown) => void (failure = e)),
  )
  if (mine !== turn) return
  reading.value = false
  got.value = result ?? undefined
  if (failure) error.value = (failure as Error).message
  else if (result !== undefined && !settled) {
    settled = true
    how.value.settle?.(form, result, levels.doc)
  }
}
const readSoon = useDebounceFn(() => void read(), 250)
watch(
  () => (format.value && how.value ? how.value.rereads(format.value, form).join() : ''),
  () => {
    // Also while it is being read: what was asked first is then overtaken.
    if (file.value) void readSoon()
  },
)

const repairs = computed(() => (got.value === undefined ? [] : how.value!.repairs(got.value)))
const facts = computed(() => (got.value === undefined ? '' : how.value!.facts(got.value, form)))
/** What is drawn in the preview. */
const shown = computed(() => (got.value === undefined ? undefined : how.value!.shown(got.value, form)))
const ready = computed(() => !reading.value && !sending.value && !error.value && got.value !== undefined)

async function carryOut() {
  sending.value = true
  try {
    const why = await how.value!.carryOut(got.value, form, file.value!, { levels, assets, sheet })
    if (why) {
      error.value = why
      return
    }
    toast(`${file.value?.name} was imported.`)
    sheet.importing = undefined
  } catch (e) {
    error.value = `It was not imported: ${(e as Error).message}`
  } finally {
    sending.value = false
  }
}

if (sheet.importing !== true && sheet.importing) void take(sheet.importing)
const drop = ref(false)
</script>

<template>
  <AskDialog :open="true" wide title="Import" @close="sheet.importing = undefined">
    <div
      class="mt-2 border border-dashed border-faded px-3 py-2.5"
      :class="drop ? 'bg-tint' : ''"
      @dragover.prevent="drop = true"
      @dragleave="drop = false"
      @drop.prevent="((drop = false), take(filesDropped($event.dataTransfer)))"
    >
      <div class="row">
        <label class="btn">
          Choose files
          <input
            type="file"
            class="sr-only"
            data-testid="import-file"
            multiple
            :accept="[...ENDINGS, 'bin', 'zip'].map((e) => `.${e}`).join()"
            @change="take(filesChosen(($event.target as HTMLInputElement).files))"
          />
        </label>
        <label class="btn">
          or a folder
          <input
            type="file"
            class="sr-only"
            webkitdirectory
            @change="take(filesChosen(($event.target as HTMLInputElement).files))"
          />
        </label>
        <select
          v-if="mains.length > 1"
          class="field min-w-0"
          aria-label="Which of the files"
          @change="choose(mains[Number(($event.target as HTMLSelectElement).value)])"
        >
          <option v-for="(m, k) in mains" :key="m.path" :value="k">{{ m.path }}</option>
        </select>
        <span v-else-if="file" class="min-w-0 truncate" :title="file.name"
          ><b>{{ file.name }}</b
          >{{ format ? `, ${format.word}` : ''
          }}{{ given.length > 1 ? `, with ${count(given.length - 1, 'other file')}` : '' }}</span
        >
        <span v-else class="text-faded"
          >or drop them here: glTF with its parts, OBJ, a height map, GeoJSON, a plan to trace, or a zip</span
        >
      </div>
    </div>
    <p v-if="error" class="mt-2 text-alarm" role="alert" data-testid="import-error">{{ error }}</p>
    <div v-if="format && how" class="mt-3 grid grid-cols-[1fr_320px] gap-4">
      <div class="flex flex-col gap-2.5">
        <p v-if="formats.length > 1" class="row">
          <label v-for="f in formats" :key="f.id" class="row gap-1!">
            <input type="radio" name="read-as" class="accent-pine" :checked="f.id === format.id" @change="readAs(f)" />
            {{ f.gives === 'picture' ? 'a plan to trace' : f.gives }}
          </label>
        </p>
        <component :is="how.form" :form="form" :read="got" :ranged="format.gives === 'heights' && format.ranged" />
      </div>
      <div>
        <ImportPreview :extent="levels.doc.settings.extent" :shown="shown" />
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
