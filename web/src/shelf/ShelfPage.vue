<script setup lang="ts">
import {
  IconCopy,
  IconDownload,
  IconMoon,
  IconPencil,
  IconPlus,
  IconSun,
  IconTrash,
  IconUpload,
} from '@tabler/icons-vue'
import type { LevelSummary } from '@tidytrail/contract'
import {
  LevelError,
  MAX_LEVEL_TEXT,
  assetIdsOf,
  writeLevelFile,
  type LevelFile,
  type PatchOp,
} from '@tidytrail/core/level'
import { transfer, wrap } from 'comlink'
import { nextTick, onMounted, ref } from 'vue'
import { useRouter } from 'vue-router'
import type { Storage } from '@tidytrail/contract'
import {
  deleteLevel,
  fetchLevel,
  fetchStorage,
  listLevels,
  makeBlank,
  makeCopy,
  makeFrom,
  restoreLevel,
  saveLevel,
} from '../api/levels'
import { fetchAsset, putAsset } from '../api/assets'
import { downloadText } from '../ui/download'
import { ago, bytes, count } from '../ui/figures'
import IconButton from '../ui/IconButton.vue'
import type { StageId } from '../stores/sheet'
import { useTheme } from '../ui/theme'
import { toast } from '../ui/toasts'
import type { Importer } from '../workers/importer.protocol'
import LevelDrawing from './LevelDrawing.vue'

const router = useRouter()
const { night, toggle } = useTheme()
const levels = ref<LevelSummary[]>()
const error = ref('')
const picker = ref<HTMLInputElement>()
const renaming = ref<string>()
const newName = ref('')
const dropping = ref(false)

/** What is kept, and how much room it takes. */
const storage = ref<Storage>()
const day = (when: string) =>
  new Date(when).toLocaleDateString('en-GB', { day: 'numeric', month: 'long', year: 'numeric' })
const bringBack = (id: string) =>
  attempt(async () => {
    await restoreLevel(id)
    await load()
  })

async function load() {
  error.value = ''
  try {
    levels.value = await listLevels()
    storage.value = await fetchStorage().catch(() => undefined)
  } catch (e) {
    error.value = (e as Error).message
  }
}
onMounted(load)

/** Runs something that may be refused, and says so in one line. */
async function attempt(action: () => Promise<unknown>) {
  try {
    await action()
  } catch (e) {
    toast((e as Error).message, { kind: 'alarm' })
  }
}

const open = (id: string, stage: StageId = 'routes') => router.push(`/levels/${id}/${stage}`)
const addNew = () =>
  attempt(async () => {
    const names = new Set(levels.value?.map((l) => l.name))
    let name = 'New level'
    for (let n = 2; names.has(name); n++) name = `New level ${n}`
    // Ground comes first.
    await open((await makeBlank(name)).id, 'ground')
  })
const duplicate = (l: LevelSummary) =>
  attempt(async () => {
    await makeCopy(l.id)
    await load()
  })
const remove = (l: LevelSummary) =>
  attempt(async () => {
    await deleteLevel(l.id)
    await load()
    toast(`${l.name} was deleted.`, {
      action: { label: 'Undo', run: () => void attempt(async () => (await restoreLevel(l.id), await load())) },
    })
  })
const exportFile = (l: LevelSummary) =>
  attempt(async () => {
    const { level } = await fetchLevel(l.id)
    const inside = new Map<string, Uint8Array>()
    for (const hash of assetIdsOf(level)) inside.set(hash, await fetchAsset(hash))
    downloadText(`${level.name}.tidytrail.json`, writeLevelFile(level, inside))
  })

function startRenaming(l: LevelSummary) {
  renaming.value = l.id
  newName.value = l.name
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-renaming]')?.select())
}
async function endRenaming(l: LevelSummary, keep: boolean) {
  if (renaming.value !== l.id) return
  renaming.value = undefined
  const name = newName.value.trim()
  if (!keep || !name || name === l.name) return
  await attempt(async () => {
    const ops: PatchOp[] = [{ op: 'replace', path: '/name', value: name }]
    await saveLevel(l.id, l.revision, crypto.randomUUID(), ops)
  })
  await load()
}

/** Reads a level file away from the page, which stays quick whatever is in it. */
async function readAside(bytes: Uint8Array<ArrayBuffer>): Promise<LevelFile> {
  const worker = new Worker(new URL('../workers/importer.worker.ts', import.meta.url), { type: 'module' })
  try {
    return await wrap<Importer>(worker).level(transfer(bytes, [bytes.buffer]))
  } finally {
    worker.terminate()
  }
}

async function importFiles(files: FileList | null | undefined) {
  for (const file of files ?? []) {
    try {
      if (file.size > MAX_LEVEL_TEXT)
        throw new LevelError(
          'too-large',
          '',
          `it has ${Math.round(file.size / 1048576)} MB; at most ${MAX_LEVEL_TEXT / 1048576} MB are read`,
        )
      const { level, assets } = await readAside(new Uint8Array(await file.arrayBuffer()))
      for (const [hash, bytes] of assets) {
        if ((await putAsset(bytes)) !== hash)
          throw new LevelError('not-valid', `assets.${hash.slice(0, 12)}…`, 'its bytes are not what its hash says')
      }
      await makeFrom(level)
      toast(`${file.name} is on the shelf.`)
    } catch (e) {
      toast(`${file.name} was not imported. ${(e as Error).message}`, { kind: 'alarm' })
    }
  }
  if (picker.value) picker.value.value = ''
  await load()
}
</script>

<template>
  <div
    class="h-full overflow-y-auto"
    @dragover.prevent="dropping = true"
    @dragleave.self="dropping = false"
    @drop.prevent="((dropping = false), importFiles($event.dataTransfer?.files))"
  >
    <header class="flex items-center gap-4 border-b-2 border-ink bg-sheet px-8 py-4">
      <svg width="38" height="44" viewBox="0 0 30 34" aria-hidden="true" fill="none">
        <path d="M15 2 27 17 15 32 3 17Z" stroke="var(--ink)" stroke-width="2" fill="var(--sheet)" />
        <path d="M15 8c4 4-4 6 0 10s-3 5 0 8" stroke="var(--rust)" stroke-width="2" stroke-dasharray="4 2" />
      </svg>
      <div>
        <h1 class="text-[26px] leading-tight">Tidy Trail</h1>
        <p class="text-faded">Lay the ways that agents walk, rehearse them, and prove that they hold.</p>
      </div>
      <div class="ml-auto flex items-center gap-2">
        <button class="btn btn-main" @click="addNew"><IconPlus :size="16" /> New level</button>
        <button class="btn" @click="picker?.click()"><IconUpload :size="16" /> Import a file</button>
        <input
          ref="picker"
          type="file"
          accept=".json,.tidytrail.json,application/json"
          class="hidden"
          multiple
          data-testid="import"
          @change="importFiles(($event.target as HTMLInputElement).files)"
        />
        <IconButton :label="night ? 'Day' : 'Night'" :icon="night ? IconSun : IconMoon" @click="toggle()" />
      </div>
    </header>
    <main
      class="mx-auto max-w-[1180px] px-8 py-7"
      :class="dropping ? 'outline-2 outline-pine outline-dashed -outline-offset-8' : ''"
    >
      <h2 class="mb-4 text-[19px]">
        The shelf
        <span v-if="levels" class="font-text text-[14px] font-normal text-faded">{{
          count(levels.length, 'level')
        }}</span>
      </h2>
      <div v-if="error" class="panel max-w-md p-4">
        <p>The shelf cannot be read: {{ error }}.</p>
        <button class="btn mt-2" @click="load">Try again</button>
      </div>
      <p v-else-if="!levels" class="text-faded">Fetching the levels …</p>
      <div v-else-if="levels.length === 0" class="panel max-w-md p-5">
        <p class="mb-3">The shelf is empty. A level holds a place, the routes through it, and those who walk them.</p>
        <button class="btn btn-main" @click="addNew">Make the first one</button>
      </div>
      <ul v-else class="grid grid-cols-[repeat(auto-fill,minmax(300px,1fr))] gap-6">
        <li
          v-for="l in levels"
          :key="l.id"
          class="panel group relative flex flex-col transition hover:-translate-y-0.5"
          data-testid="level"
        >
          <RouterLink :to="`/levels/${l.id}/routes`" class="block" :aria-label="`Open ${l.name}`"
            ><LevelDrawing :sketch="l.sketch"
          /></RouterLink>
          <div class="border-t border-ink px-3 py-2">
            <input
              v-if="renaming === l.id"
              v-model="newName"
              data-renaming
              class="field min-h-0! py-0! font-head text-[16px]"
              aria-label="New name"
              maxlength="200"
              @keyup.enter="endRenaming(l, true)"
              @keyup.esc="endRenaming(l, false)"
              @blur="endRenaming(l, true)"
            />
            <RouterLink
              v-else
              :to="`/levels/${l.id}/routes`"
              class="block truncate font-head text-[17px] font-[650]"
              :title="l.name"
              >{{ l.name }}</RouterLink
            >
            <p v-if="l.rehearsed" class="text-[13px]" data-testid="last-verdict" :title="l.rehearsed.name">
              <span :class="l.rehearsed.fail + l.rehearsed.trialsFail > 0 ? 'text-alarm' : 'text-pine'">
                {{ l.rehearsed.fail + l.rehearsed.trialsFail > 0 ? '✗' : '✓' }} {{ l.rehearsed.follow }} follow{{
                  l.rehearsed.fail > 0 ? `, ${l.rehearsed.fail} do not` : ''
                }}{{ l.rehearsed.trialsFail > 0 ? `, ${count(l.rehearsed.trialsFail, 'trial')} failed` : '' }}
              </span>
              <span class="text-faded">
                rehearsed {{ ago(Date.now() - Date.parse(l.rehearsed.keptAt))
                }}{{ l.rehearsed.revision < l.revision ? ', changed since' : '' }}</span
              >
            </p>
            <p v-if="l.fault" class="text-[13px] text-alarm" :title="l.fault">Cannot be opened: {{ l.fault }}</p>
            <p v-else class="truncate text-[13px] text-faded">
              {{ count(l.counts.routes, 'route') }} · {{ count(l.counts.spawners, 'spawner') }} ·
              {{ count(l.counts.solids, 'solid') }}
            </p>
            <p class="text-[13px] text-faded">
              changed {{ ago(Date.now() - Date.parse(l.changedAt)) }} · revision {{ l.revision }}
            </p>
            <div class="mt-1.5 -ml-1.5 flex gap-1">
              <button class="btn-quiet row gap-1!" @click="startRenaming(l)"><IconPencil :size="14" />Rename</button>
              <button class="btn-quiet row gap-1!" @click="duplicate(l)"><IconCopy :size="14" />Duplicate</button>
              <button class="btn-quiet row gap-1!" @click="exportFile(l)"><IconDownload :size="14" />Export</button>
              <button class="btn-quiet row gap-1!" @click="remove(l)"><IconTrash :size="14" />Delete</button>
            </div>
          </div>
        </li>
      </ul>
      <footer v-if="storage" class="mt-8 border-t border-rule pt-3 text-[13px] text-faded" data-testid="storage">
        <p>
          Kept: {{ count(storage.levels.count, 'level') }}, {{ bytes(storage.levels.bytes) }} · their history,
          {{ bytes(storage.history.bytes) }} · {{ count(storage.assets.count, 'import') }},
          {{ bytes(storage.assets.bytes) }}
        </p>
        <details v-if="storage.deleted.length > 0" class="mt-1">
          <summary class="cursor-pointer">{{ count(storage.deleted.length, 'deleted level') }}</summary>
          <ul class="mt-1">
            <li v-for="d in storage.deleted" :key="d.id" class="row">
              <span class="truncate">{{ d.name }}</span>
              <span>thrown away on {{ day(d.goneAfter) }}</span>
              <button class="btn-quiet" @click="bringBack(d.id)">Bring back</button>
            </li>
          </ul>
        </details>
      </footer>
    </main>
  </div>
</template>
