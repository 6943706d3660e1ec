import { reactive } from 'vue'

/** What the next road is drawn as; kept while the page is open. */
export const paving = reactive({ ahead: 1, back: 1, laneM: 3.25, pavementM: 0, smooth: true })
