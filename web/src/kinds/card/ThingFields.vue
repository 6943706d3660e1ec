<script setup lang="ts">
import {
  fieldsOf,
  isRestricted,
  isTagged,
  keptNumber,
  shownNumber,
  valueIn,
  withValue,
  type Collection,
  type FieldSpec,
  type NumberSpec,
} from '@tidytrail/core/level'
import { computed } from 'vue'
import { useLevelStore } from '../../stores/level'
import NumberField from '../../ui/NumberField.vue'
import TagsField from '../../ui/TagsField.vue'
import ProfileChoice from './ProfileChoice.vue'
import { shared } from './shared'
import { compareNames } from '../../ui/names'

/** The plain fields of a thing, or of several things of one kind, as their schema tells them. */
const props = defineProps<{
  in: Collection
  things: readonly { readonly id: string; readonly thing: object }[]
  /** Only fields whose first key is among these; without, all that are not left out. */
  only?: readonly string[]
  except?: readonly string[]
  /** Other fields than those of the kind, such as of a part. */
  fields?: readonly FieldSpec[]
  /** What is said over the list of those who may use it. */
  restriction?: string
}>()
const emit = defineEmits<{ set: [values: (thing: object) => object, gesture: string | undefined]; done: [] }>()
const levels = useLevelStore()

const wanted = (key: string) => (props.only ? props.only.includes(key) : !props.except?.includes(key))
const first = computed(() => props.things[0].thing)
const fields = computed(() =>
  (props.fields ?? fieldsOf(props.in, first.value)).filter(
    (f) => wanted(f.path[0]) && props.things.every((t) => f.when?.(t.thing) ?? true),
  ),
)
const short = computed(() => fields.value.filter((f) => f.as === 'number' || f.as === 'choice'))
const wide = computed(() => fields.value.filter((f) => f.as === 'thing'))
const ticks = computed(() => fields.value.filter((f) => f.as === 'tick'))
const texts = computed(() => fields.value.filter((f) => f.as === 'text'))
const all = computed(() => props.things.map((t) => t.thing))
const of = (f: FieldSpec) => shared(all.value, (t) => valueIn(t, f.path))

function set(f: FieldSpec, value: unknown, gesture?: string) {
  emit('set', (thing) => withValue(thing, f.path, value), gesture)
}
const textOf = (event: Event) => (event.target as HTMLInputElement).value
const numberOf = (v: unknown, f: NumberSpec) => (typeof v === 'number' ? shownNumber(f, v) : null)
const restricted = computed(() => props.fields === undefined && wanted('profileIds') && isRestricted(props.in))
const tagged = computed(
  () => props.fields === undefined && wanted('tags') && isTagged(props.in) && all.value.length === 1,
)
const who = computed(() => shared(all.value, (t) => (t as { profileIds: string[] }).profileIds))
const tags = computed(() => (first.value as { tags: string[] }).tags)
const thingsIn = (c: Collection) =>
  Object.entries(levels.doc[c] as unknown as Record<string, { name: string }>).sort(([, a], [, b]) =>
    compareNames(a.name, b.name),
  )
</script>

<template>
  <div>
    <label v-for="f in wide" :key="f.path.join('.')" class="mt-1 block">
      <template v-if="f.as === 'thing' && (thingsIn(f.to).length > 0 || of(f).value)">
        <span class="label">{{ f.label }}</span>
        <select
          class="field"
          :aria-label="f.label"
          :value="of(f).mixed ? '…' : (of(f).value ?? '')"
          @change="set(f, textOf($event) || null)"
        >
          <option v-if="of(f).mixed" value="…" disabled>differs</option>
          <option value="">{{ f.none ?? 'none' }}</option>
          <option v-for="[id, t] in thingsIn(f.to)" :key="id" :value="id">{{ t.name }}</option>
        </select>
      </template>
    </label>
    <div v-if="short.length > 0" class="mt-1 grid grid-cols-2 gap-x-3 gap-y-2">
      <template v-for="f in short" :key="f.path.join('.')">
        <label v-if="f.as === 'number' && f.slider" class="col-span-2 block">
          <span class="label">{{ f.label }}, {{ Math.round(Number(of(f).value) * f.times) }} {{ f.unit }}</span>
          <input
            type="range"
            class="w-full accent-pine"
            :min="f.min"
            :max="f.max"
            :step="f.step"
            :aria-label="f.label"
            :value="Number(of(f).value) * f.times"
            @input="set(f, Number(textOf($event)) / f.times, `slide-${f.path.join('.')}`)"
            @change="emit('done')"
          />
        </label>
        <NumberField
          v-else-if="f.as === 'number'"
          :label="f.label"
          :unit="f.unit"
          :step="f.step"
          :digits="f.digits"
          :min="f.min"
          :max="f.max"
          :value="numberOf(of(f).value, f) ?? (f.none === undefined ? null : 0)"
          :dial="f.compass !== undefined"
          :mixed="of(f).mixed"
          :none="of(f).value === null ? f.none : undefined"
          :clearable="f.none !== undefined && of(f).value !== null"
          @change="(v, g) => set(f, keptNumber(f, v), g)"
          @clear="set(f, null)"
          @done="emit('done')"
        />
        <label v-else-if="f.as === 'choice'" class="block">
          <span class="label">{{ f.label }}</span>
          <select
            class="field"
            :aria-label="f.label"
            :value="of(f).mixed ? '…' : (of(f).value ?? '')"
            @change="set(f, textOf($event) || null)"
          >
            <option v-if="of(f).mixed" value="…" disabled>differs</option>
            <option v-if="f.none !== undefined" value="">{{ f.none }}</option>
            <option v-for="c in f.choices" :key="c.value" :value="c.value">{{ c.word }}</option>
          </select>
        </label>
      </template>
    </div>
    <slot />
    <div v-if="ticks.length > 0" class="mt-2 flex flex-col gap-1">
      <label v-for="f in ticks" :key="f.path.join('.')" class="row">
        <input
          type="checkbox"
          class="accent-pine"
          :checked="of(f).value === true && !of(f).mixed"
          :indeterminate="of(f).mixed"
          @change="set(f, ($event.target as HTMLInputElement).checked)"
        />
        {{ f.label }}
      </label>
    </div>
    <ProfileChoice
      v-if="restricted"
      :chosen="who.mixed ? [] : who.value"
      :nobody="things.length === 1 && (first as { nobody?: boolean }).nobody"
      :label="restriction ?? 'only for (none ticked: everyone)'"
      @change="emit('set', () => ({ profileIds: $event, nobody: false }), undefined)"
    />
    <TagsField v-if="tagged" :tags="tags" @change="emit('set', () => ({ tags: $event }), undefined)" />
    <label v-for="f in texts" :key="f.path.join('.')" class="mt-2 block">
      <span class="label">{{ f.label }}</span>
      <textarea
        v-if="f.as === 'text' && f.long"
        class="field"
        rows="2"
        :aria-label="f.label"
        :maxlength="f.most"
        :value="of(f).mixed ? '' : String(of(f).value)"
        :placeholder="of(f).mixed ? 'differs' : ''"
        @change="set(f, textOf($event))"
      />
      <input
        v-else-if="f.as === 'text'"
        class="field"
        :aria-label="f.label"
        :maxlength="f.most"
        :value="of(f).mixed ? '' : String(of(f).value)"
        :placeholder="of(f).mixed ? 'differs' : ''"
        @change="set(f, textOf($event))"
      />
    </label>
  </div>
</template>
