<script setup lang="ts">
import type { Mesh } from '@tidytrail/core/level'
import TagsField from '../../ui/TagsField.vue'

/** What solids and meshes have in common: who may stand on them, whether they block sight, tags and a note. */
type Standing = Pick<Mesh, 'walkable' | 'blocksSight' | 'tags' | 'note'>
defineProps<{ thing: Standing; stand: string }>()
const emit = defineEmits<{ set: [values: Partial<Standing>] }>()
</script>

<template>
  <div class="mt-2 flex flex-col gap-1 border-t border-rule pt-2">
    <label class="row"
      ><input
        type="checkbox"
        class="accent-pine"
        :checked="thing.walkable"
        @change="emit('set', { walkable: !thing.walkable })"
      />
      {{ stand }}</label
    >
    <label class="row"
      ><input
        type="checkbox"
        class="accent-pine"
        :checked="thing.blocksSight"
        @change="emit('set', { blocksSight: !thing.blocksSight })"
      />
      blocks sight</label
    >
  </div>
  <TagsField :tags="thing.tags" @change="emit('set', { tags: $event })" />
  <label class="mt-2 block"
    ><span class="label">note</span
    ><textarea
      class="field"
      rows="2"
      :value="thing.note"
      maxlength="4000"
      @change="emit('set', { note: ($event.target as HTMLTextAreaElement).value })"
    />
  </label>
</template>
