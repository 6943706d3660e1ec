import { expose } from 'comlink'
import { makeRehearser } from './rehearsing'

expose(makeRehearser(() => new Promise<void>((resolve) => setTimeout(resolve, 0))))
