import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import { useLevelStore } from '../stores/level'
import { useRehearsalStore } from '../stores/rehearsal'
import { STAGES, useSheetStore, type StageId } from '../stores/sheet'
import type { keyPointer } from '../map/key-pointer'
import type { Tool } from '../tools/tool'
import { useChoice } from './choice'

/** What the keys of the sheet can do beside what the stores can. */
export interface SheetKeys {
  readonly tools: Ref<readonly Tool[]>
  readonly map: Ref<
    | {
        tool: Tool
        readonly keys: ReturnType<typeof keyPointer>
        /** Breaks off what the pointer is held down for. */
        cancel(): boolean
      }
    | undefined
  >
  /** Is something open that takes the keys itself? */
  blocked(): boolean
  go(stage: StageId): void
  find(): void
  help(): void
  fit(): void
  zoom(by: number): void
  pan(dx: number, dy: number): void
}

/** The keys of the sheet, as the dialog of keys lists them. */
export function useSheetKeys(options: SheetKeys): void {
  const levels = useLevelStore()
  const sheet = useSheetStore()
  const rehearsal = useRehearsalStore()
  const choice = useChoice()

  useEventListener('keydown', (event: KeyboardEvent) => {
    const target = event.target as HTMLElement
    const typing =
      /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) &&
      !['range', 'checkbox', 'radio'].includes((target as HTMLInputElement).type)
    const command = event.ctrlKey || event.metaKey
    if (command && event.key.toLowerCase() === 'k') {
      event.preventDefault()
      options.find()
      return
    }
    if (
      event.defaultPrevented ||
      (event.altKey && event.code !== 'Comma' && event.code !== 'Period') ||
      !levels.level ||
      options.blocked() ||
      typing ||
      // Whatever lies over the sheet has the keys.
      document.querySelector('[role="dialog"]')
    )
      return
    const key = event.key
    const done = () => event.preventDefault()
    if (command) {
      if (key.toLowerCase() === 'z') {
        done()
        if (event.shiftKey) levels.redo()
        else levels.undo()
      } else if (key.toLowerCase() === 'y') {
        done()
        levels.redo()
      } else if (key.toLowerCase() === 'a') {
        done()
        choice.all()
      }
      return
    }
    if (key === 'Escape' && options.map.value?.cancel()) return done()
    if (options.map.value?.tool.press?.(key)) return done()
    const steersItself = ['tab', 'row', 'option', 'menuitem', 'slider'].includes(target.getAttribute('role') ?? '')
    if (key >= '1' && key <= '6') return options.go(STAGES[Number(key) - 1])
    const tool = options.tools.value.find((t) => t.key === key.toLowerCase() && t.stages.includes(sheet.stage))
    if (tool) {
      sheet.toolId = tool.id
      return
    }
    switch (key) {
      case '?':
        options.help()
        break
      case 'Escape':
        if (sheet.settling) sheet.settling = undefined
        else if (sheet.laying) sheet.laying = undefined
        else if (sheet.toolId !== 'choose') sheet.toolId = 'choose'
        else if (options.map.value?.keys.placed) {
          options.map.value.keys.put(false)
          sheet.crosshair = undefined
        } else sheet.choose([])
        break
      case 'Delete':
      case 'Backspace':
        choice.remove()
        break
      case '+':
      case '=':
        options.zoom(1.3)
        break
      case '-':
        options.zoom(1 / 1.3)
        break
      case 'f':
        options.fit()
        break
      case 'g':
        choice.settle()
        break
      case 'o':
        sheet.overlook = !sheet.overlook
        break
      case 'ArrowLeft':
      case 'ArrowRight':
      case 'ArrowUp':
      case 'ArrowDown': {
        if (steersItself || (target as HTMLInputElement).type === 'range') return
        done()
        const [dx, dy] = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[key]!
        if (sheet.toolId !== 'choose' || options.map.value?.keys.placed) {
          options.map.value?.keys.steer(dx, dy, event)
          return
        }
        if (!choice.nudge(dx, dy)) options.pan(dx, dy)
        break
      }
    }
    if (sheet.stage !== 'rehearse') {
      // With Shift or Alt the keys have other signs on them.
      const pointer = options.map.value?.keys
      if (event.code === 'Period' || key === '.') {
        if (pointer?.click(event)) return done()
        // With the choosing tool the arrows move the map until a place is asked for.
        if (sheet.toolId === 'choose') return pointer?.put(true)
      }
      if ((event.code === 'Comma' || key === ',') && pointer?.hold(event)) return done()
    }
    if (sheet.stage !== 'rehearse') return
    if (key === 'k') rehearsal.playOrPause()
    else if (key === 'j') rehearsal.faster(-1)
    else if (key === 'l') rehearsal.faster(1)
    else if (key === '.' || key === '>') {
      if (event.shiftKey) rehearsal.toEvent(1)
      else rehearsal.stepBy(1)
    } else if (key === ',' || key === '<') {
      if (event.shiftKey) rehearsal.toEvent(-1)
      else rehearsal.stepBy(-1)
    } else if (key === 'Home') rehearsal.seek(0)
    else if (key === 'r') rehearsal.begin(rehearsal.begun ? rehearsal.seed : levels.doc.settings.seed)
  })
}
