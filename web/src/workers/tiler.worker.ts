import { expose, transfer } from 'comlink'
import { makeTiler } from './tiling'

expose(makeTiler(transfer))
