import { expose } from 'comlink'
import { makeSurveyor } from './surveying'

const pause = new MessageChannel()
/** Those who are letting messages in: the survey, the trial of fixes and a rehearsal may all be. */
const waiting: (() => void)[] = []
pause.port1.onmessage = () => waiting.shift()?.()

/** Lets waiting messages in; quicker than a timer. */
const breathe = () =>
  new Promise<void>((resolve) => {
    waiting.push(resolve)
    pause.port2.postMessage(0)
  })

expose(makeSurveyor(breathe))
