<script setup lang="ts">
import {
  IconArrowBackUp,
  IconArrowForwardUp,
  IconKeyboard,
  IconListDetails,
  IconMap2,
  IconMoon,
  IconMountain,
  IconSun,
} from '@tabler/icons-vue'
import { renameLevel, writeLevelFile } from '@tidytrail/core/level'
import { useNow } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useAssetStore } from '../stores/assets'
import { useLevelStore } from '../stores/level'
import { useSheetStore, type StageId } from '../stores/sheet'
import { downloadText } from '../ui/download'
import { ago } from '../ui/figures'
import ActionMenu from '../ui/ActionMenu.vue'
import { useFrameSize } from '../ui/frame-size'
import IconButton from '../ui/IconButton.vue'
import { useTheme } from '../ui/theme'
import { toast } from '../ui/toasts'
import StageTrail from './StageTrail.vue'

/** The head of the sheet: which level, how far it is kept, the stages, and what there is always. */
const emit = defineEmits<{ go: [stage: StageId]; keys: []; find: []; aside: [] }>()
const levels = useLevelStore()
const assets = useAssetStore()
const sheet = useSheetStore()
const { night, toggle: toggleNight } = useTheme()
const name = ref('')
const now = useNow({ interval: 20_000 })
const savedAt = ref(Date.now())

watch(
  () => levels.level?.name,
  (n) => (name.value = n ?? ''),
  { immediate: true },
)
watch([() => levels.revision, () => levels.keepState], () => (savedAt.value = Date.now()))
const kept = computed(() => {
  switch (levels.keepState) {
    case 'kept':
      return `kept ${ago(now.value.getTime() - savedAt.value)} · revision ${levels.revision}`
    case 'keeping':
      return 'keeping …'
    case 'no-connection':
      return 'no connection; changes wait in this browser'
    case 'no-room':
      return 'the disk of the server is full; changes wait in this browser'
    case 'gone':
      return 'deleted elsewhere; changes wait in this browser'
    default:
      return 'changed elsewhere too: decide'
  }
})
function rename() {
  if (name.value.trim() && name.value !== levels.doc.name) levels.perform(renameLevel, { name: name.value })
  else name.value = levels.doc.name
}

function exportFile() {
  const inside = assets.inside(levels.doc)
  if (!inside) return toast('What was imported is still being fetched; try again in a moment.')
  downloadText(`${levels.doc.name}.tidytrail.json`, writeLevelFile(levels.doc, inside))
}

const frame = useFrameSize()
/** What there is always: buttons while there is room, a menu otherwise. */
const commands = computed(() => [
  {
    name: 'Overlook',
    tip: 'Overlook: the level standing up (O)',
    icon: IconMountain,
    key: 'O',
    on: sheet.overlook,
    run: () => (sheet.overlook = !sheet.overlook),
  },
  {
    name: 'Legend',
    tip: 'Legend: what is shown',
    icon: IconMap2,
    on: sheet.panels.legend,
    run: () => (sheet.panels.legend = !sheet.panels.legend),
  },
  {
    name: 'Fold or open the panels',
    icon: IconListDetails,
    off: frame.value === 'small',
    run: () => (sheet.panels.register = sheet.panels.card = !sheet.panels.register),
  },
  { name: 'Keys', tip: 'Keys (?)', icon: IconKeyboard, key: '?', run: () => emit('keys') },
  { name: night.value ? 'Day' : 'Night', icon: night.value ? IconSun : IconMoon, run: toggleNight },
  { name: 'Export', tip: 'Write the level to a file', run: exportFile },
  { name: 'Find', tip: 'Find anything (Ctrl K)', key: 'Ctrl K', run: () => emit('find') },
])
</script>

<template>
  <header
    class="z-30 flex shrink-0 items-center border-b-2 border-ink bg-sheet"
    :class="frame === 'small' ? 'h-12 gap-2 px-2' : 'h-14 gap-3 px-3.5'"
  >
    <RouterLink to="/" class="shrink-0" title="To the shelf" aria-label="To the shelf">
      <svg width="30" height="34" viewBox="0 0 30 34" aria-hidden="true" fill="none">
        <path d="M15 2 27 17 15 32 3 17Z" stroke="var(--ink)" stroke-width="2" fill="var(--sheet)" />
        <path d="M15 8c4 4-4 6 0 10s-3 5 0 8" stroke="var(--rust)" stroke-width="2" stroke-dasharray="4 2" />
      </svg>
    </RouterLink>
    <div :class="{ wide: 'w-[200px] shrink-0', narrow: 'w-[170px] shrink', small: 'min-w-0 flex-1' }[frame]">
      <input
        v-if="levels.level"
        v-model="name"
        class="-ml-1 w-full truncate rounded-sm border border-transparent bg-transparent px-1 font-head text-[17px] leading-tight font-[650] hover:border-rule"
        aria-label="Name of the level"
        maxlength="200"
        :title="name"
        @change="rename"
        @keydown.enter="($event.target as HTMLInputElement).blur()"
      />
      <p
        class="truncate text-[12.5px]"
        :class="['kept', 'keeping'].includes(levels.keepState) ? 'text-faded' : 'font-bold text-alarm'"
        role="status"
        data-testid="kept"
        :title="kept"
      >
        <button v-if="levels.aside.length > 0" class="mr-1 font-bold text-alarm underline" @click="emit('aside')">
          {{ levels.aside.length }} set aside</button
        ><button v-if="levels.conflict && !levels.conflictShown" class="underline" @click="levels.conflictShown = true">
          {{ kept }}</button
        ><template v-else>{{ levels.level ? kept : 'opening …' }}</template>
      </p>
    </div>
    <StageTrail :frame="frame" @go="emit('go', $event)" />
    <div class="ml-auto flex shrink-0 items-center gap-0.5">
      <IconButton
        label="Undo"
        :tip="`Undo ${levels.steps.past.at(-1)?.label ?? ''} (Ctrl Z)`"
        :icon="IconArrowBackUp"
        :disabled="levels.steps.past.length === 0"
        @click="levels.undo()"
      />
      <IconButton
        label="Redo"
        :tip="`Redo ${levels.steps.future.at(-1)?.label ?? ''} (Ctrl Shift Z)`"
        :icon="IconArrowForwardUp"
        :disabled="levels.steps.future.length === 0"
        @click="levels.redo()"
      />
      <ActionMenu v-if="frame !== 'wide'" label="More" :items="commands" />
      <template v-else>
        <IconButton
          v-for="c in commands.filter((one) => one.icon)"
          :key="c.name"
          :label="c.name"
          :tip="c.tip"
          :icon="c.icon!"
          :pressed="c.on"
          @click="c.run()"
        />
        <button
          v-for="c in commands.filter((one) => !one.icon)"
          :key="c.name"
          class="btn-quiet whitespace-nowrap"
          :title="c.tip"
          @click="c.run()"
        >
          <kbd v-if="c.key" class="border border-rule px-1 text-[11px]">{{ c.key }}</kbd> {{ c.name }}
        </button>
      </template>
    </div>
  </header>
</template>
