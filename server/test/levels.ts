import { DEMO_LEVELS } from '@tidytrail/demo'

export const lanternquay = DEMO_LEVELS[0].make
