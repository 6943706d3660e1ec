import { expose } from 'comlink'
import { makeBreathe } from './breathe'
import { makeInsighter } from './insighting'

expose(makeInsighter(makeBreathe()))
