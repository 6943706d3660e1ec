import { expose } from 'comlink'
import { makeSurveyor } from './surveying'

const pause = new MessageChannel()

/** Lets waiting messages in; quicker than a timer. */
const breathe = () =>
  new Promise<void>((resolve) => {
    pause.port1.onmessage = () => resolve()
    pause.port2.postMessage(0)
  })

expose(makeSurveyor(breathe))
