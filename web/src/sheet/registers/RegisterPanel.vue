<script setup lang="ts">
import { IconEye, IconEyeOff, IconLock, IconLockOpen } from '@tabler/icons-vue'
import { useElementSize } from '@vueuse/core'
import { nextTick, computed, ref, watch } from 'vue'
import type { RegisterRow } from '../../kinds/register'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import { compareNames } from '../../ui/names'

const props = defineProps<{
  title: string
  figure: string
  rows: readonly RegisterRow[]
  find: string
  fixed?: boolean
  empty: string
  /** Its rows can be neither hidden nor locked. */
  plain?: boolean
  /** Kinds to choose from, to show only one of them. */
  kinds?: readonly { id: string; name: string }[]
}>()
const emit = defineEmits<{
  rename: [id: string, name: string]
  hide: [id: string]
  lock: [id: string]
  zoom: [id: string]
}>()
const sheet = useSheetStore()
const survey = useSurveyStore()

const text = ref('')
const order = ref<'name' | 'size' | 'findings' | 'users' | 'kind'>('name')
const only = ref('')
const renaming = ref<string>()
const newName = ref('')
const TONES = { good: 'text-pine', fair: 'text-ochre', bad: 'text-alarm', plain: 'text-faded' }

const badge = (id: string) => {
  const found = survey.bySubject.get(id) ?? []
  const blockers = found.filter((f) => f.finding.severity === 'blocker').length
  return { total: found.length, blockers }
}
const counted = (n: number) => (n === 1 ? '1 finding' : `${n} findings`)
const listed = computed(() => {
  const wanted = text.value.trim().toLowerCase()
  const rows = props.rows.filter(
    (r) =>
      (!only.value || r.kind === only.value) && (!wanted || `${r.name} ${r.detail}`.toLowerCase().includes(wanted)),
  )
  const byName = (a: RegisterRow, b: RegisterRow) => compareNames(a.name, b.name)
  if (props.fixed) return rows
  if (order.value === 'users') return rows.sort((a, b) => (b.users ?? 0) - (a.users ?? 0) || byName(a, b))
  if (order.value === 'kind') return rows.sort((a, b) => compareNames(a.kind ?? '', b.kind ?? '') || byName(a, b))
  if (order.value === 'size') return rows.sort((a, b) => b.size - a.size || byName(a, b))
  if (order.value === 'findings') return rows.sort((a, b) => badge(b.id).total - badge(a.id).total || byName(a, b))
  return rows.sort(byName)
})

/** Long lists are drawn only where they are looked at; a row is this high, pixels. */
const ROW_PX = 47
const LONG = 150
const long = computed(() => listed.value.length > LONG)
const frame = ref<HTMLElement>()
const top = ref(0)
const { height } = useElementSize(frame)
const shown = computed(() => {
  if (!long.value) return listed.value
  const first = Math.max(0, Math.floor(top.value / ROW_PX) - 8)
  return listed.value.slice(first, first + Math.ceil(height.value / ROW_PX) + 16)
})
const before = computed(() => (long.value ? Math.max(0, Math.floor(top.value / ROW_PX) - 8) * ROW_PX : 0))
const after = computed(() => (long.value ? (listed.value.length - shown.value.length) * ROW_PX - before.value : 0))
/** Brings a chosen row into the part of a long list that is drawn. */
watch(
  () => sheet.chosen,
  (id) => {
    const at = long.value && id ? listed.value.findIndex((r) => r.id === id) : -1
    const el = frame.value
    if (at < 0 || !el || (at * ROW_PX >= el.scrollTop && (at + 1) * ROW_PX <= el.scrollTop + el.clientHeight)) return
    el.scrollTop = at * ROW_PX - el.clientHeight / 2
  },
)

/** One row can be tabbed to: that which had the keys last, or the chosen one, or the first; arrows lead to the others. */
const current = ref<string>()
const tabStop = computed(() => {
  const here = (id: string | undefined) => (id !== undefined && shown.value.some((r) => r.id === id) ? id : undefined)
  return here(current.value) ?? here(sheet.chosen) ?? shown.value[0]?.id
})

/** The row a choice of several begins at. */
let anchor: string | undefined
function choose(row: RegisterRow, event: MouseEvent | KeyboardEvent) {
  if (event.shiftKey && anchor) {
    const [a, b] = [anchor, row.id].map((id) => listed.value.findIndex((r) => r.id === id)).sort((m, n) => m - n)
    if (a >= 0) return sheet.choose(listed.value.slice(a, b + 1).map((r) => r.id))
  }
  anchor = row.id
  if (event.shiftKey || event.ctrlKey || event.metaKey) sheet.toggle(row.id)
  else sheet.choose([row.id])
}

function startRenaming(row: RegisterRow) {
  if (props.fixed || row.locked) return
  renaming.value = row.id
  newName.value = row.name
  void nextTick(() => document.querySelector<HTMLInputElement>('[data-renaming]')?.select())
}

function endRenaming(keep: boolean) {
  const id = renaming.value
  renaming.value = undefined
  if (keep && id && newName.value.trim()) emit('rename', id, newName.value.trim())
  // The row has the keys again, unless something else has been given them.
  void nextTick(() => {
    if (id && document.activeElement === document.body)
      frame.value?.querySelector<HTMLElement>(`[data-row="${CSS.escape(id)}"]`)?.focus()
  })
}

function dragRoute(event: DragEvent, row: RegisterRow) {
  if (row.routeId) event.dataTransfer?.setData('application/x-tidytrail-route', row.routeId)
  if (row.tells) event.dataTransfer?.setData('application/x-tidytrail-told', row.id)
}

function onKey(row: RegisterRow, event: KeyboardEvent) {
  if (event.key === 'F2') startRenaming(row)
  else if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
    event.preventDefault()
    const rows = [...(event.currentTarget as HTMLElement).parentElement!.querySelectorAll<HTMLElement>('[role=row]')]
    const next = rows[rows.indexOf(event.currentTarget as HTMLElement) + (event.key === 'ArrowDown' ? 1 : -1)]
    next?.focus()
    next?.click()
  } else if (event.key === 'Enter') emit('zoom', row.id)
}
</script>

<template>
  <section class="panel flex max-h-full w-[236px] flex-col" :aria-label="title">
    <header class="px-3 pt-2.5 pb-2">
      <div class="mb-1.5 flex items-baseline justify-between gap-2">
        <h2 class="text-[17px] whitespace-nowrap">{{ title }}</h2>
        <span class="label text-right">{{ figure }}</span>
      </div>
      <slot name="top" />
      <div v-if="rows.length > 4 || text" class="flex gap-1">
        <input v-model="text" type="search" class="field" :placeholder="find" :aria-label="find" />
        <select v-if="!fixed" v-model="order" class="field w-[70px]! px-1!" aria-label="Sort by" title="Sort by">
          <option value="name">name</option>
          <option value="size">size</option>
          <option value="findings">faults</option>
          <option v-if="rows[0]?.users !== undefined" value="users">users</option>
          <option v-if="kinds" value="kind">kind</option>
        </select>
      </div>
      <select v-if="kinds && kinds.length > 1" v-model="only" class="field mt-1" aria-label="Show only">
        <option value="">every kind</option>
        <option v-for="k in kinds" :key="k.id" :value="k.id">{{ k.name }}</option>
      </select>
    </header>
    <div v-if="rows.length === 0" class="border-t border-rule px-3 py-3 text-[13px] text-faded">{{ empty }}</div>
    <div
      v-else
      ref="frame"
      class="min-h-0 overflow-y-auto border-t border-rule"
      role="grid"
      :aria-label="title"
      aria-multiselectable="true"
      @scroll.passive="top = ($event.target as HTMLElement).scrollTop"
    >
      <div v-if="before > 0" :style="{ height: `${before}px` }" />
      <div
        v-for="row in shown"
        :key="row.id"
        role="row"
        :data-row="row.id"
        :tabindex="row.id === tabStop ? 0 : -1"
        class="group relative flex items-center gap-2 border-b border-rule px-3 py-1.5 last:border-b-0"
        :style="long ? { height: `${ROW_PX}px` } : undefined"
        :class="sheet.selected.includes(row.id) ? 'bg-tint shadow-[inset_3px_0_0_var(--rust)]' : 'hover:bg-tint/60'"
        :aria-selected="sheet.selected.includes(row.id)"
        :draggable="(!!row.routeId || row.tells) && renaming !== row.id"
        @dragstart="dragRoute($event, row)"
        @click="choose(row, $event)"
        @dblclick="startRenaming(row)"
        @keydown.self="onKey(row, $event)"
        @focus="current = row.id"
        @mouseenter="sheet.hovered = row.id"
        @mouseleave="sheet.hovered = undefined"
      >
        <span role="gridcell" class="contents"><slot name="symbol" :row="row" /></span>
        <div class="min-w-0 flex-1" role="gridcell">
          <input
            v-if="renaming === row.id"
            v-model="newName"
            data-renaming
            class="field min-h-0! py-0!"
            aria-label="New name"
            maxlength="200"
            @click.stop
            @keydown.stop
            @keyup.enter="endRenaming(true)"
            @keyup.esc="endRenaming(false)"
            @blur="endRenaming(true)"
          />
          <div
            v-else
            class="truncate"
            :class="[sheet.selected.includes(row.id) ? 'font-bold' : '', row.hidden ? 'opacity-50' : '']"
            :title="row.name"
          >
            {{ row.name }}
          </div>
          <div class="truncate text-[11.5px] tracking-tight text-faded" :title="row.detail">{{ row.detail }}</div>
        </div>
        <div class="flex shrink-0 items-center gap-1 text-[12px]" role="gridcell">
          <span v-if="row.mark" :class="TONES[row.mark.tone]">{{ row.mark.text }}</span>
          <span v-if="badge(row.id).blockers" class="font-bold text-alarm" :title="counted(badge(row.id).total)"
            >⬣ {{ badge(row.id).total }}</span
          >
          <span v-else-if="badge(row.id).total" class="font-bold text-ochre" :title="counted(badge(row.id).total)"
            >△ {{ badge(row.id).total }}</span
          >
        </div>
        <div
          v-if="!fixed && !plain"
          role="gridcell"
          class="absolute right-2 bottom-1 flex gap-1.5 rounded-sm bg-tint px-1 text-faded opacity-0 group-focus-within:opacity-100 group-hover:opacity-100"
          :class="row.locked || row.hidden ? 'opacity-100!' : ''"
        >
          <button
            :aria-label="row.locked ? `Unlock ${row.name}` : `Lock ${row.name}`"
            :title="row.locked ? 'Unlock' : 'Lock'"
            :tabindex="row.id === tabStop ? 0 : -1"
            @click.stop="emit('lock', row.id)"
          >
            <component :is="row.locked ? IconLock : IconLockOpen" :size="14" />
          </button>
          <button
            :aria-label="row.hidden ? `Show ${row.name}` : `Hide ${row.name}`"
            :title="row.hidden ? 'Show' : 'Hide'"
            :tabindex="row.id === tabStop ? 0 : -1"
            @click.stop="emit('hide', row.id)"
          >
            <component :is="row.hidden ? IconEyeOff : IconEye" :size="14" />
          </button>
        </div>
      </div>
      <div v-if="after > 0" :style="{ height: `${after}px` }" />
    </div>
    <p v-if="rows.length > 0 && listed.length === 0" class="px-3 py-2 text-[13px] text-faded">
      Nothing here is called that.
    </p>
    <footer v-if="$slots.foot" class="flex flex-wrap gap-2 border-t border-ink px-3 py-2"><slot name="foot" /></footer>
  </section>
</template>
