import { makeBreathe, makeSurveyor } from '@tidytrail/web'
import { expose } from 'comlink'

// The page's surveyor without the other thread it has there.
expose(makeSurveyor(makeBreathe()))
