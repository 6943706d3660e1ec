import { expect, it } from 'vitest'
import { STAGES } from '../../stores/sheet'
import { Bench } from './tool-bench'
import { TOOLS } from '.'

/** What the sheet does on every stage, and on that of rehearsing alone. */
const ALWAYS = ['o', 'f', 'g', '+', '-', '=', '?', '.', ',', '1', '2', '3', '4', '5', '6']
const REHEARSING = ['k', 'j', 'l', 'r']

it('on every stage each key does one thing', () => {
  const bench = new Bench()
  const tools = TOOLS.map((make) => bench.make(make))
  for (const stage of STAGES) {
    const keys = [
      ...ALWAYS,
      ...(stage === 'rehearse' ? REHEARSING : []),
      ...tools.filter((t) => t.stages.includes(stage)).map((t) => t.key),
    ]
    expect([stage, keys.filter((k, n) => keys.indexOf(k) !== n)]).toEqual([stage, []])
  }
})
