<script setup lang="ts">
import { nameOf, removeThings } from '@tidytrail/core/level'
import { useLevelStore } from '../../stores/level'

const levels = useLevelStore()
</script>

<template>
  <div class="min-h-0 flex-1 overflow-y-auto border-t border-rule">
    <table class="w-full text-[13px]">
      <tbody>
        <tr v-for="(w, id) in levels.doc.waivers" :key="id" class="border-b border-rule last:border-b-0">
          <td class="w-[170px] py-1 pl-3 font-bold">{{ w.check }}</td>
          <td class="py-1">{{ w.subjects.map((s) => nameOf(levels.doc, s)).join(', ') }}: {{ w.reason }}</td>
          <td class="py-1 pr-2 text-right">
            <button class="btn-quiet py-0!" @click="levels.perform(removeThings, { ids: [id] })">Take back</button>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
