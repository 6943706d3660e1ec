import { reactive } from 'vue'

/** What the next roundabout is drawn as; kept while the page is open. */
export const ringing = reactive({ radiusM: 14, widthM: 4 })
