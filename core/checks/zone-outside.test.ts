import { boxOfThing } from '@tidytrail/core/ground'
import { castLevel } from '@tidytrail/core/testing'
import { describe, expect, it } from 'vitest'
import { CheckedSurvey } from '.'

describe('what a zone takes up on the map', () => {
  it('is all of its circle or band, so that it is zoomed to and found outside the sheet as a whole', () => {
    const more = castLevel({
      zones: {
        zn_c: { name: 'C', shape: 'circle', ring: [[-4, 30], [-9, 30]] },
        zn_f: { name: 'F', shape: 'circle', ring: [[-9, 30], [-4, 30]] },
        zn_b: { name: 'B', shape: 'band', routeId: 'rt_a', widthM: 6 },
        zn_n: { name: 'N', shape: 'band', routeId: null },
      },
    }) // prettier-ignore
    expect(boxOfThing(more, 'zn_c')).toEqual({ minX: -9, minY: 25, maxX: 1, maxY: 35 })
    expect(boxOfThing(more, 'zn_b')).toEqual({ minX: 7, minY: 7, maxX: 23, maxY: 23 })
    expect(boxOfThing(more, 'zn_n')).toBeUndefined()
    const outside = new CheckedSurvey().update(more).filter((f) => f.check === 'ground.outside-extent')
    // The one whose rim leads outward reaches in, the other does not.
    expect(outside.map((f) => f.subjects[0])).toEqual(['zn_f'])
  })
})
