import { cpus } from 'node:os'
import { benchLevel } from './level.bench'
import { benchInsight } from './insight.bench'
import { benchImport } from './import.bench'
import { benchEdits } from './edits.bench'
import { benchCast } from './cast.bench'
import { benchCourses } from './courses.bench'
import { benchDriving } from './driving.bench'
import { benchFrames } from './frames.bench'
import { benchMoving } from './moving.bench'
import { benchNetwork } from './network.bench'
import { benchReach } from './reach.bench'
import { benchRehearsal } from './rehearsal.bench'
import { benchSaves } from './saves.bench'
import { benchTraffic } from './traffic.bench'
import { benchSurvey, benchWide } from './survey.bench'

const BENCHES: Record<string, () => void | Promise<void>> = {
  edits: benchEdits,
  reach: benchReach,
  import: benchImport,
  network: benchNetwork,
  courses: benchCourses,
  traffic: benchTraffic,
  driving: benchDriving,
  survey: benchSurvey,
  rehearsal: benchRehearsal,
  cast: benchCast,
  insight: benchInsight,
  wide: benchWide,
  level: benchLevel,
  saves: benchSaves,
  frames: benchFrames,
  moving: benchMoving,
}

const wanted = process.argv.slice(2)
process.stdout.write(
  `Node ${process.versions.node}, ${cpus().length} cores, ${cpus()[0]?.model ?? 'unknown processor'}\n`,
)
for (const [name, bench] of Object.entries(BENCHES)) if (wanted.length === 0 || wanted.includes(name)) await bench()
