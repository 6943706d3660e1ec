import { defineStore } from 'pinia'
import { ref } from 'vue'

/** What is looked at of junctions: the time their signals are shown at, and the two ways that are pointed at. */
export const useTrafficStore = defineStore('traffic', () => ({
  t: ref(0),
  pair: ref<readonly [string, string]>(),
}))
