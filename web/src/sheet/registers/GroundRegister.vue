<script setup lang="ts">
import { boxOf } from '@tidytrail/core/geometry'
import { meshAsset } from '@tidytrail/core/ground'
import type { Solid } from '@tidytrail/core/level'
import { computed, ref, watch } from 'vue'
import RegisterPanel, { type RegisterRow } from './RegisterPanel.vue'
import RegisterTabs from './RegisterTabs.vue'
import { useRegisterActions } from './register-actions'
import { useAssetStore } from '../../stores/assets'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { coverWord } from '../../kinds/cover/paint'
import { count, metres } from '../../ui/figures'

type Tab = 'solids' | 'meshes' | 'covers' | 'underlays'
const levels = useLevelStore()
const sheet = useSheetStore()
const assets = useAssetStore()
const tab = ref<Tab>('solids')
const actions = useRegisterActions(() => tab.value)

/** Choosing something elsewhere opens the list it is in. */
watch(
  () => sheet.chosen,
  (id) => {
    for (const t of ['solids', 'meshes', 'covers', 'underlays'] as const) if (id && levels.doc[t][id]) tab.value = t
  },
)

const size = (o: object) => Object.keys(o).length
const tabs = computed(() => [
  { id: 'solids', name: 'Solids', count: size(levels.doc.solids) },
  { id: 'meshes', name: 'Meshes', count: size(levels.doc.meshes) },
  { id: 'covers', name: 'Covers', count: size(levels.doc.covers) },
  { id: 'underlays', name: 'Underlays', count: size(levels.doc.underlays) },
])

function sizeWords(s: Solid): string {
  if (s.shape === 'prism') return `${s.ring.length} corners`
  if (s.shape === 'cylinder') return `${metres(2 * s.radiusM)} across`
  return `${metres(s.sizeX)} × ${metres(s.sizeY)}`
}
const areaOf = (s: Solid) =>
  s.shape === 'prism' ? s.heightM : s.shape === 'cylinder' ? s.radiusM * s.radiusM * 3 : s.sizeX * s.sizeY

const rows = computed<RegisterRow[]>(() => {
  void assets.version
  const level = levels.doc
  const kept = (t: { hidden: boolean; locked: boolean }) => ({ hidden: t.hidden, locked: t.locked })
  switch (tab.value) {
    case 'solids':
      return Object.entries(level.solids).map(([id, s]) => ({
        id,
        name: s.name || 'Unnamed',
        detail: `${s.shape} · ${sizeWords(s)} · ${metres(s.heightM)} high`,
        size: areaOf(s),
        ...kept(s),
      }))
    case 'meshes':
      return Object.entries(level.meshes).map(([id, m]) => {
        const triangles = (meshAsset(m.assetId)?.data.indices.length ?? 0) / 3
        return {
          id,
          name: m.name || 'Unnamed',
          detail: triangles > 0 ? `mesh · ${count(triangles, 'triangle')}` : 'mesh · being fetched',
          size: triangles,
          ...kept(m),
        }
      })
    case 'covers':
      return Object.entries(level.covers).map(([id, c]) => {
        const b = boxOf(c.ring)
        return {
          id,
          name: c.name || 'Unnamed',
          detail: `${coverWord(c.kind).toLowerCase()} · speed × ${+c.speedFactor.toFixed(2)} · grip ${+c.grip.toFixed(2)}`,
          size: (b.maxX - b.minX) * (b.maxY - b.minY),
          ...kept(c),
        }
      })
    default:
      return Object.entries(level.underlays).map(([id, u]) => ({
        id,
        name: u.name || 'Unnamed',
        detail: `underlay · ${(u.metresPerPixel * 100).toPrecision(3)} cm a pixel`,
        size: u.metresPerPixel,
        ...kept(u),
      }))
  }
})
const EMPTY: Record<Tab, string> = {
  solids: 'Nothing stands on this ground yet. Block out the place, or import it.',
  meshes: 'No mesh yet. Import a glTF or OBJ file of the place.',
  covers: 'Nothing painted yet. Take Cover in hand and click round a road.',
  underlays: 'No plan yet. Import a PNG or JPEG to trace.',
}
</script>

<template>
  <RegisterPanel
    title="Ground"
    :figure="count(rows.length, tab === 'meshes' ? 'mesh' : tab.slice(0, -1), tab)"
    :rows="rows"
    :find="`Find among the ${tab}`"
    :empty="EMPTY[tab]"
    v-on="actions"
  >
    <template #top><RegisterTabs :tabs="tabs" :chosen="tab" @choose="tab = $event as Tab" /></template>
    <template #symbol="{ row }">
      <svg
        width="22"
        height="16"
        viewBox="0 0 22 16"
        aria-hidden="true"
        class="shrink-0"
        fill="none"
        stroke="var(--ink)"
      >
        <path v-if="row.detail.startsWith('ramp')" d="M1 14h20L21 3z" stroke-width="1.4" />
        <path v-else-if="row.detail.startsWith('stairs')" d="M1 14h20V2h-5v4h-5v4H6v4" stroke-width="1.3" />
        <path v-else-if="row.detail.startsWith('prism')" d="M2 10l4-8h11l4 7-8 5z" stroke-width="1.4" />
        <circle v-else-if="row.detail.startsWith('cylinder')" cx="11" cy="8" r="6.4" stroke-width="1.4" />
        <path v-else-if="tab === 'meshes'" d="M2 13L8 3l6 7 3-5 4 8zM8 3l-1 10M14 10l-1 3" stroke-width="1.1" />
        <path
          v-else-if="tab === 'covers'"
          d="M1 10c4-7 7-7 10-4s6 2 10-3v9c-5 3-8 2-10 0S5 12 1 15z"
          stroke-width="1.2"
          stroke-dasharray="2 1.5"
        />
        <path v-else-if="tab === 'underlays'" d="M2 2h18v12H2zM2 11l5-5 4 4 3-2 6 5" stroke-width="1.1" />
        <path v-else d="M2 2h18v12H2zM2 10l8-8M4 14L16 2M11 14l9-9" stroke-width="1.1" />
      </svg>
    </template>
    <template #foot>
      <button class="btn btn-main" @click="sheet.importing = true">Import …</button>
      <button class="btn" @click="sheet.settingUp = true">The sheet …</button>
    </template>
  </RegisterPanel>
</template>
