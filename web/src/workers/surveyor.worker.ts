import { expose, wrap } from 'comlink'
import { makeBreathe } from './breathe'
import { Crew } from './crew'
import { makeSurveyor } from './surveying'
import type { Tiler } from './tiler.protocol'

/** Where there is but one processor, a second thread would only take turns with this one. */
const tiler =
  navigator.hardwareConcurrency > 1
    ? new Worker(new URL('./tiler.worker.ts', import.meta.url), { type: 'module' })
    : undefined

const crew = new Crew(tiler && wrap<Tiler>(tiler))
// Left to itself the fault of the other thread would count as one of this.
tiler?.addEventListener('error', (event) => {
  event.preventDefault()
  crew.lose()
})
expose(makeSurveyor(makeBreathe(), undefined, crew))
