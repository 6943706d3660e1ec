import { ref } from 'vue'

/** The shape the zone tool draws. */
export const zoneShape = ref<'polygon' | 'circle' | 'band'>('polygon')
