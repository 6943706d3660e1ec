/**
 * `npm run hours -- [hours] [first seed]`: hours of Kettle Cross at its design flow, one seed after the other on both
 * sides of the road, looked through for collisions and for those who stand. Ends with 1 when anything is found.
 */
import { driveOn, type Level } from '@tidytrail/core/level'
import { Run } from '@tidytrail/core/rehearsal'
import { Survey } from '@tidytrail/core/survey'
import { collisionsIn, framesOf } from '@tidytrail/core/testing'
import { sidesChanged } from '@tidytrail/core/traffic'
import { DEMO_LEVELS } from '@tidytrail/demo'

const HOUR_S = 3600
/** Whoever stands for longer than this is told of, seconds. */
const STANDS_S = 300

const hours = Number(process.argv[2] ?? 2)
const first = Number(process.argv[3] ?? 1)
const left = DEMO_LEVELS.find((d) => d.slug === 'kettle-cross')!.make()
const levels: readonly [string, Level][] = [
  ['left', left],
  ['right', driveOn.apply(left, sidesChanged(left)).level],
]
const surveys = levels.map(([, level]) => {
  const survey = new Survey()
  survey.update(level)
  return survey
})

/** The longest anybody stood at one go, seconds. */
function longestStand(run: Run): number {
  const since = new Map<number, number>()
  let longest = 0
  framesOf(run).forEach((rows, f) => {
    for (const { key, speed } of rows) {
      if (speed > 0.1 || !since.has(key)) since.set(key, f)
      longest = Math.max(longest, (f - since.get(key)!) / 10)
    }
  })
  return longest
}

let faults = 0
for (let k = 0; k < hours; k++) {
  const [side, level] = levels[k % 2]
  const seed = first + Math.floor(k / 2)
  const run = new Run(level, seed, surveys[k % 2])
  run.runTo(HOUR_S)
  const collisions = collisionsIn(run)
  const stood = longestStand(run)
  const { engine } = run
  const came = engine.members.filter((m) => m.spawnerId === 'sp_traffic').length
  const owed = engine.world.by.owed.reduce((sum, n) => sum + n, 0)
  const bad = collisions.length > 0 || stood > STANDS_S
  if (bad) faults++
  process.stdout.write(
    `${bad ? 'FAULT ' : ''}seed ${seed} on the ${side}: ${came} vehicles, ${collisions.length} collisions, stood at most ${stood.toFixed(0)} s, ${owed} waiting outside\n`,
  )
  for (const c of collisions.slice(0, 3)) process.stdout.write(`  ${JSON.stringify(c)}\n`)
}
process.stdout.write(`${hours} hours, ${faults} with a collision or somebody who stood for over ${STANDS_S} s\n`)
process.exitCode = faults > 0 ? 1 : 0
