import type { Level } from '@tidytrail/core/level'
import { kettleCross } from './kettle-cross'
import { lanternquay } from './lanternquay'
import { roughDraft } from './rough-draft'
import { wideSallow } from './wide-sallow'

/** A level of the Sallow Isles, made by code. */
export interface DemoLevel {
  /** What the command line calls it. */
  readonly slug: string
  readonly name: string
  readonly about: string
  /** Offered on the shelf at first start? */
  readonly onShelf: boolean
  readonly make: () => Level
}

export const DEMO_LEVELS: readonly DemoLevel[] = [
  {
    slug: 'lanternquay',
    name: 'Lanternquay by night',
    about: 'Patrols round a harbour’s warehouses, over a pier and up to a roof.',
    onShelf: true,
    make: lanternquay,
  },
  {
    slug: 'kettle-cross',
    name: 'Kettle Cross',
    about: 'A signalled crossroads, a roundabout and a one-way market street with an hour’s traffic.',
    onShelf: true,
    make: kettleCross,
  },
  {
    slug: 'rough-draft',
    name: 'Rough draft',
    about: 'Lanternquay with planted faults, to learn by mending.',
    onShelf: true,
    make: roughDraft,
  },
  {
    slug: 'wide-sallow',
    name: 'Wide Sallow',
    about: '4 km² with 20,000 waypoints, to try the size of things.',
    onShelf: false,
    make: () => wideSallow(),
  },
]
