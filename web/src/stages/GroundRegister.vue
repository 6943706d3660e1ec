<script setup lang="ts">
import type { Solid } from '@tidytrail/core/level'
import { computed } from 'vue'
import RegisterPanel, { type RegisterRow } from '../sheet/RegisterPanel.vue'
import { useRegisterActions } from '../sheet/register-actions'
import { useLevelStore } from '../stores/level'
import { useSheetStore } from '../stores/sheet'
import { count, metres } from '../ui/figures'

const levels = useLevelStore()
const sheet = useSheetStore()
const actions = useRegisterActions('solids')

const sizeWords = (s: Solid) =>
  s.shape === 'prism' ? `${s.ring.length} corners` : `${metres(s.sizeX)} × ${metres(s.sizeY)}`
const rows = computed<RegisterRow[]>(() =>
  Object.entries(levels.doc.solids).map(([id, s]) => ({
    id,
    name: s.name || 'Unnamed',
    detail: `${s.shape} · ${sizeWords(s)} · ${metres(s.heightM)} high`,
    hidden: s.hidden,
    locked: s.locked,
    size: s.shape === 'prism' ? s.heightM : s.sizeX * s.sizeY,
  })),
)
</script>

<template>
  <RegisterPanel
    title="Ground"
    :figure="count(rows.length, 'solid')"
    :rows="rows"
    find="Find a solid"
    empty="Nothing stands on this ground yet. Block out the place with boxes, prisms and ramps."
    v-on="actions"
  >
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
        <path v-else-if="row.detail.startsWith('prism')" d="M2 10l4-8h11l4 7-8 5z" stroke-width="1.4" />
        <path v-else d="M2 2h18v12H2zM2 10l8-8M4 14L16 2M11 14l9-9" stroke-width="1.1" />
      </svg>
    </template>
    <template #foot>
      <button class="btn btn-main" @click="sheet.toolId = 'box'">Draw a box</button>
      <button class="btn" @click="sheet.toolId = 'ramp'">Ramp</button>
    </template>
  </RegisterPanel>
</template>
