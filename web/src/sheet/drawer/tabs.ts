import { computed, defineAsyncComponent } from 'vue'
import { useInsightStore } from '../../stores/insight'
import { useLevelStore } from '../../stores/level'
import { useSheetStore } from '../../stores/sheet'
import { useSurveyStore } from '../../stores/survey'
import ArrivalsTab from './ArrivalsTab.vue'
import CastTab from './CastTab.vue'
import ChangesTab from './ChangesTab.vue'
import ElevationView from './ElevationView.vue'
import FactionsTab from './FactionsTab.vue'
import FindingsTab from './FindingsTab.vue'
import RunTab from './RunTab.vue'
import type { DrawerTab } from './tab'
import { seenFromTheSide } from './seen-from-the-side'
import WaivedTab from './WaivedTab.vue'
import WaveTab from './WaveTab.vue'
import { waveWays } from './wave-ways'

const NO_FINDINGS = {
  known: 'The checks find nothing wrong',
  renewed: 'The checks are being run',
  begun: 'The checks are being run',
  stopped: 'The checks have stopped',
}
/** Charts are large: they are fetched when somebody looks at one. */
const StringTab = defineAsyncComponent(() => import('./StringTab.vue'))
const SeedsTab = defineAsyncComponent(() => import('./SeedsTab.vue'))
const CompareTab = defineAsyncComponent(() => import('./CompareTab.vue'))
const TrafficTab = defineAsyncComponent(() => import('./TrafficTab.vue'))
const WindowsTab = defineAsyncComponent(() => import('./WindowsTab.vue'))

const LIST_HEIGHT = 'max-h-[148px]'

/** A tab of the cast. */
const onCast = (name: string, title: string) => () => {
  const sheet = useSheetStore()
  return () => (sheet.stage === 'cast' ? { name, title } : undefined)
}

/** A tab of what is found out by rehearsing. */
const onRehearse = (name: string, title: string) => () => {
  const sheet = useSheetStore()
  return () => (sheet.stage === 'rehearse' ? { name, title } : undefined)
}

/** The tabs of the drawer from left to right; of those with something to show, the first is there when none is asked for. */
export const DRAWER_TABS: readonly DrawerTab[] = [
  {
    id: 'run',
    height: 'h-[126px]',
    component: RunTab,
    use() {
      const sheet = useSheetStore()
      return () => (sheet.stage === 'rehearse' ? { name: 'Run', title: 'Rehearsal' } : undefined)
    },
  },
  {
    id: 'string',
    height: 'h-[252px]',
    component: StringTab,
    use: onRehearse('String-line', 'Timetable'),
  },
  {
    id: 'windows',
    height: 'h-[206px]',
    component: WindowsTab,
    use: onRehearse('Windows', 'Unwatched'),
  },
  {
    id: 'traffic',
    height: 'h-[226px]',
    component: TrafficTab,
    use() {
      const sheet = useSheetStore()
      const levels = useLevelStore()
      const has = computed(() => Object.values(levels.level?.routes ?? {}).some((r) => r.kind === 'lane'))
      return () => (sheet.stage === 'rehearse' && has.value ? { name: 'Traffic', title: 'Traffic' } : undefined)
    },
  },
  {
    id: 'wave',
    height: 'h-[226px]',
    component: WaveTab,
    use() {
      const sheet = useSheetStore()
      const levels = useLevelStore()
      const has = computed(() => levels.level !== undefined && waveWays(levels.level, sheet.chosen).length > 0)
      return () => (sheet.stage === 'routes' && has.value ? { name: 'Green wave', title: 'Green wave' } : undefined)
    },
  },
  {
    id: 'seeds',
    height: 'h-[226px]',
    component: SeedsTab,
    use: onRehearse('Seeds', 'Many seeds'),
  },
  {
    id: 'compare',
    height: 'h-[226px]',
    component: CompareTab,
    use: onRehearse('Compare', 'Kept runs'),
  },
  {
    id: 'elevation',
    height: 'h-[186px]',
    component: ElevationView,
    use() {
      const sheet = useSheetStore()
      const levels = useLevelStore()
      return () => {
        const routeId = levels.level && seenFromTheSide(levels.level, sheet.selected)
        if (!routeId) return undefined
        return { name: 'Side view', title: `${levels.doc.routes[routeId].name} from the side`, props: { routeId } }
      }
    },
  },
  {
    id: 'cast',
    height: 'h-[232px]',
    component: CastTab,
    use: onCast('Table', 'Squads and spawners'),
  },
  {
    id: 'factions',
    height: 'h-[186px]',
    component: FactionsTab,
    use: onCast('Factions', 'Who is hostile to whom'),
  },
  {
    id: 'arrivals',
    height: 'h-[186px]',
    component: ArrivalsTab,
    use: onCast('Arrivals', 'Who comes when'),
  },
  {
    id: 'findings',
    height: LIST_HEIGHT,
    component: FindingsTab,
    use() {
      const survey = useSurveyStore()
      const insight = useInsightStore()
      return () => {
        const n = survey.findings.length + insight.findings.length
        const title = n > 0 ? 'Findings' : NO_FINDINGS[survey.standing]
        return { name: `Findings ${n}`, title, ...(n === 0 && { empty: true }) }
      }
    },
  },
  {
    id: 'waived',
    height: LIST_HEIGHT,
    component: WaivedTab,
    use() {
      const levels = useLevelStore()
      return () => {
        const n = Object.keys(levels.level?.waivers ?? {}).length
        return n > 0 ? { name: `Waived ${n}`, title: 'Waived' } : undefined
      }
    },
  },
  {
    id: 'log',
    height: LIST_HEIGHT,
    component: ChangesTab,
    use: () => () => ({ name: 'Changes', title: 'Changes' }),
  },
]
