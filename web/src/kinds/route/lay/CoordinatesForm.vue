<script setup lang="ts">
import {
  FIELDS,
  FormatError,
  placesOf,
  readCoordinates,
  type CoordinateRow,
  type CoordinateTable,
  type Field,
} from '@tidytrail/core/formats'
import type { RouteKind, RouteSketch } from '@tidytrail/core/level'
import { computed, ref, watch } from 'vue'
import { useLevelStore } from '../../../stores/level'
import { useSheetStore } from '../../../stores/sheet'
import { count } from '../../../ui/figures'
import { onFloor } from './sketches'

/** Routes from a pasted list of places, or a file of one, with a choice of what each column holds. */
const props = defineProps<{ kind: RouteKind }>()
const emit = defineEmits<{ sketched: [sketches: readonly RouteSketch[]] }>()
const levels = useLevelStore()
const sheet = useSheetStore()
const text = ref(sheet.pastedText)
sheet.pastedText = ''
const closed = ref(false)
const skip = ref(false)
const columns = ref<Partial<Record<Field, number>>>({})
const WORDS: Record<Field, string> = {
  x: 'east, x',
  y: 'north, y',
  z: 'height',
  name: 'name',
  pause: 'pause',
  route: 'route',
}

const why = (e: unknown) => (e instanceof FormatError ? e.message : String(e))
const table = computed((): { table?: CoordinateTable; error?: string } => {
  if (text.value.trim() === '') return {}
  try {
    return { table: readCoordinates(text.value) }
  } catch (e) {
    return { error: why(e) }
  }
})
watch(table, (t) => (columns.value = { ...t.table?.columns }), { immediate: true })
const read = computed((): { rows: CoordinateRow[]; faults: string[]; error?: string } => {
  const none = { rows: [], faults: [] }
  if (!table.value.table) return { ...none, error: table.value.error }
  try {
    const { minX, minY, maxX, maxY } = levels.doc.settings.extent
    return placesOf(table.value.table, columns.value, skip.value, [(minX + maxX) / 2, (minY + maxY) / 2])
  } catch (e) {
    return { ...none, error: why(e) }
  }
})
const rows = computed(() => read.value.rows)
const outside = computed(() => {
  const { minX, minY, maxX, maxY } = levels.doc.settings.extent
  return rows.value.filter(({ at: [x, y] }) => x < minX || x > maxX || y < minY || y > maxY).length
})
const width = computed(() => Math.max(0, ...(table.value.table?.rows.slice(0, 20).map((r) => r.length) ?? [])))

watch(
  [rows, closed, () => props.kind],
  () => {
    const groups = new Map<string, (typeof rows.value)[number][]>()
    for (const row of rows.value) groups.set(row.route, [...(groups.get(row.route) ?? []), row])
    emit(
      'sketched',
      [...groups]
        .filter(([, list]) => list.length > 1)
        .map(([name, list]) => ({
          name,
          kind: props.kind,
          closed: closed.value,
          places: list.map(({ at, name: word, pauseS }) => ({
            at: at[2] === undefined ? onFloor(at as never) : (at as readonly number[]),
            name: word,
            pauseS,
          })),
        })),
    )
  },
  { immediate: true },
)

async function takeFile(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (file) text.value = await file.text()
}
</script>

<template>
  <div>
    <label class="block">
      <span class="label">paste places, one a line: x, y, and height, name or pause if you like</span>
      <textarea
        v-model="text"
        class="field h-[92px] font-mono text-[12px]"
        aria-label="List of places"
        placeholder="12.5, 40&#10;18, 44.25"
        spellcheck="false"
      />
    </label>
    <input
      type="file"
      accept=".csv,.tsv,.txt,text/csv,text/plain"
      class="mt-1 w-full text-[12.5px] text-faded file:mr-2 file:border file:border-ink file:bg-transparent file:px-2 file:py-0.5 file:font-bold file:text-ink"
      aria-label="A file with places"
      @change="takeFile"
    />
    <p v-if="read.error" class="mt-1.5 border border-alarm bg-alarm/8 px-2 py-1 text-[13px]" role="alert">
      {{ read.error.charAt(0).toUpperCase() + read.error.slice(1) }}.
    </p>
    <template v-if="table.table">
      <div class="mt-1.5 grid grid-cols-2 gap-x-3 gap-y-1">
        <label v-for="f in FIELDS" :key="f" class="row justify-between gap-1! text-[13px] whitespace-nowrap">
          <span class="text-faded">{{ WORDS[f] }}</span>
          <select
            class="field w-[70px]! px-1! py-0!"
            :aria-label="`Column of ${WORDS[f]}`"
            :value="columns[f] ?? ''"
            @change="
              columns = {
                ...columns,
                [f]:
                  ($event.target as HTMLSelectElement).value === ''
                    ? undefined
                    : Number(($event.target as HTMLSelectElement).value),
              }
            "
          >
            <option value="">none</option>
            <option v-for="k in width" :key="k" :value="k - 1">{{ table.table.head?.[k - 1] || `no. ${k}` }}</option>
          </select>
        </label>
      </div>
      <p v-if="table.table.degrees" class="mt-1 text-[12.5px] text-faded">
        Longitude and latitude: in metres about the middle of the sheet.
      </p>
      <div class="mt-1.5 max-h-[74px] overflow-auto border border-rule text-[12px]">
        <table class="w-full">
          <tbody>
            <tr v-for="(r, i) in rows.slice(0, 40)" :key="i" class="border-b border-rule last:border-b-0">
              <td class="px-1.5 text-faded">{{ i + 1 }}</td>
              <td class="px-1 text-right">{{ r.at[0] }}</td>
              <td class="px-1 text-right">{{ r.at[1] }}</td>
              <td class="px-1 text-right">{{ r.at[2] ?? 'floor' }}</td>
              <td class="max-w-[80px] truncate px-1">{{ [r.route, r.name].filter(Boolean).join(' · ') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <label class="row mt-1.5 gap-1! text-[13px]"
        ><input v-model="closed" type="checkbox" class="accent-pine" /> it closes into a round</label
      >
      <label class="row gap-1! text-[13px]"
        ><input v-model="skip" type="checkbox" class="accent-pine" /> leave out rows that cannot be read</label
      >
      <p v-if="read.faults.length > 0" class="text-[12.5px] text-ochre" :title="read.faults.slice(0, 20).join('\n')">
        {{ count(read.faults.length, 'row') }} left out; the first: {{ read.faults[0] }}.
      </p>
      <p v-if="outside > 0" class="text-[12.5px] text-ochre">
        {{ count(outside, 'place') }} would lie outside the level.
      </p>
    </template>
  </div>
</template>
