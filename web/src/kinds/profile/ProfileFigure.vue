<script setup lang="ts">
import { bodyOf, type Profile } from '@tidytrail/core/level'
import { computed } from 'vue'

/** A small drawn figure of a body with its measures, to scale. */
const props = defineProps<{ profile: Profile; small?: boolean }>()

const W = computed(() => (props.small ? 22 : 256))
const H = computed(() => (props.small ? 22 : 132))
const floor = computed(() => (props.small ? 21 : 112))
/** Pixels a metre, so that body, step and a person's height beside it fit. */
const scale = computed(() => {
  const p = props.profile
  const room = props.small ? 19 : 92
  const wide = props.small ? 20 : 120
  return Math.min(room / Math.max(p.heightM, 0.3), wide / Math.max(2 * p.radiusM, 0.3))
})
const h = computed(() => props.profile.heightM * scale.value)
const r = computed(() => Math.min(props.profile.radiusM * scale.value, W.value / 2 - 1))
const x = computed(() => (props.small ? 11 : 78))
const step = computed(() => Math.min(46, props.profile.stepM * scale.value))
const slopeDeg = computed(() => (props.profile.maxSlopeRad * 180) / Math.PI)
const rampEnd = computed(() => {
  const run = 50
  return [run, Math.min(60, Math.tan(Math.min(1.2, props.profile.maxSlopeRad)) * run)]
})
const walks = computed(() => bodyOf(props.profile.medium).stands)
</script>

<template>
  <svg
    :width="W"
    :height="H"
    :viewBox="`0 0 ${W} ${H}`"
    class="shrink-0"
    role="img"
    :aria-label="`${profile.name}: ${(2 * profile.radiusM).toFixed(2)} m wide, ${profile.heightM.toFixed(2)} m high`"
    fill="none"
    stroke="var(--ink)"
    :stroke-width="small ? 1.2 : 1.6"
    stroke-linecap="round"
    stroke-linejoin="round"
  >
    <g v-if="profile.medium === 'foot'">
      <circle :cx="x" :cy="floor - h + Math.min(r, h * 0.12)" :r="Math.min(r * 0.7, h * 0.1)" />
      <path
        :d="`M${x} ${floor - h * 0.8}V${floor - h * 0.42}M${x - r * 0.8} ${floor - h * 0.6}L${x} ${floor - h * 0.76}L${x + r * 0.8} ${floor - h * 0.6}M${x - r * 0.6} ${floor}L${x} ${floor - h * 0.42}L${x + r * 0.6} ${floor}`"
      />
    </g>
    <g v-else-if="profile.medium === 'wheels'">
      <path :d="`M${x - r} ${floor - h * 0.3}V${floor - h}H${x + r}V${floor - h * 0.3}Z`" />
      <circle
        v-for="k in [-0.55, 0.55]"
        :key="k"
        :cx="x + k * r"
        :cy="floor - h * 0.2"
        :r="h * 0.2"
        fill="var(--sheet)"
      />
    </g>
    <g v-else-if="profile.medium === 'water'">
      <path
        :d="`M${x - r} ${floor - h * 0.35}Q${x} ${floor + h * 0.1} ${x + r} ${floor - h * 0.35}ZM${x} ${floor - h * 0.35}V${floor - h}L${x + r * 0.7} ${floor - h * 0.5}H${x}`"
      />
      <path
        :d="`M${x - r * 1.4} ${floor - h * 0.18}q${r * 0.3} ${-h * 0.08} ${r * 0.6} 0M${x + r * 0.8} ${floor - h * 0.18}q${r * 0.3} ${-h * 0.08} ${r * 0.6} 0`"
        stroke="var(--lake)"
      />
    </g>
    <g v-else-if="profile.medium === 'air'">
      <path
        :d="`M${x - r} ${floor - h * 1.1}Q${x - r * 0.4} ${floor - h * 1.7} ${x} ${floor - h}Q${x + r * 0.4} ${floor - h * 1.7} ${x + r} ${floor - h * 1.1}`"
      />
      <path :d="`M${x} ${floor - h}v${Math.min(h, 6)}`" stroke-dasharray="2 2" />
    </g>
    <g v-else>
      <path
        :d="`M${x - r} ${floor - h * 0.3}Q${x} ${floor - h * 1.5} ${x + r} ${floor - h * 0.3}ZM${x - r * 0.6} ${floor}V${floor - h * 0.3}M${x + r * 0.6} ${floor}V${floor - h * 0.3}`"
      />
    </g>
    <template v-if="!small">
      <rect
        :x="x - r"
        :y="floor - h"
        :width="2 * r"
        :height="h"
        stroke="var(--rust)"
        stroke-dasharray="3 3"
        stroke-width="1"
      />
      <path
        :d="walks ? `M4 ${floor}H150${step > 0.5 ? `V${floor - step}H176` : 'H176'}` : `M4 ${floor}H176`"
        stroke="var(--faded)"
        stroke-width="1.2"
      />
      <g class="text-[11px]" fill="var(--ink)" stroke="none" style="font-family: var(--font-text)">
        <text v-if="walks && profile.stepM > 0" x="152" :y="floor - step - 4">{{ profile.stepM.toFixed(2) }} m</text>
        <text :x="x - r - 5" :y="floor - h / 2 + 4" text-anchor="end">{{ profile.heightM.toFixed(2) }} m</text>
        <text :x="x" :y="floor + 15" text-anchor="middle">{{ (2 * profile.radiusM).toFixed(2) }} m</text>
        <text v-if="walks" x="252" :y="floor + 15" text-anchor="end">{{ slopeDeg.toFixed(0) }}°</text>
      </g>
      <path :d="`M${x - r - 2} ${floor}v${-h}`" stroke="var(--rule)" stroke-dasharray="2 2" stroke-width="1" />
      <path v-if="walks" :d="`M196 ${floor}h${rampEnd[0]}v${-rampEnd[1]}z`" stroke="var(--faded)" stroke-width="1.2" />
      <path
        v-if="profile.medium === 'air'"
        :d="`M190 ${floor}v-70M184 ${floor - 62}h12M184 ${floor - 20}h12`"
        stroke="var(--faded)"
        stroke-width="1.2"
      />
      <g v-if="profile.medium === 'air'" class="text-[11px]" fill="var(--ink)" stroke="none">
        <text x="200" :y="floor - 58">{{ profile.maxAltitudeM }} m</text>
        <text x="200" :y="floor - 16">{{ profile.minAltitudeM }} m</text>
      </g>
      <text
        v-if="profile.medium === 'water'"
        x="190"
        :y="floor - 20"
        class="text-[11px]"
        fill="var(--ink)"
        stroke="none"
      >
        draws {{ profile.draughtM.toFixed(2) }} m
      </text>
    </template>
  </svg>
</template>
