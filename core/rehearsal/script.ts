import { applyPatch, assertTame, errorOf, LevelError, readLevel, type Level, type PatchOp } from '@tidytrail/core/level'
import { z } from 'zod'

/** One operation of an edit, as edits make them. */
const opSchema: z.ZodType<PatchOp> = z.discriminatedUnion('op', [
  z.object({ op: z.enum(['add', 'replace']), path: z.string().max(1000), value: z.unknown() }),
  z.object({ op: z.literal('remove'), path: z.string().max(1000) }),
])

const step = z.number().int().min(0)
const agent = z.string().min(1).max(200)
const share = z.number().min(-1).max(1)

/** Something done to a run while it went on. A stand-in is steered in a direction (of length one, or none), metres a second. */
export const commandSchema = z.discriminatedUnion('do', [
  z.object({ step, do: z.literal('edit'), patch: z.array(opSchema).readonly() }).readonly(),
  z.object({ step, do: z.literal('steer'), agent, x: share, y: share, mps: z.number().min(-1).max(1000) }).readonly(),
  z.object({ step, do: z.literal('noise'), agent }).readonly(),
  z.object({ step, do: z.literal('let-go'), agent }).readonly(),
])
export type Command = z.output<typeof commandSchema>

/** What makes a run of a level repeatable: its seed, its length, and what was done to it, in order. Goes with the level file. */
export const scriptSchema = z.object({
  seed: z.number().int().min(0).max(0x7fffffff),
  seconds: z.number().min(0).max(7200),
  commands: z.array(commandSchema).max(1_000_000),
})
export type Script = z.output<typeof scriptSchema>

/**
 * The run that came with a level file. Every edit in it must make a level of the one before it.
 * @throws LevelError that names the place of the first fault
 */
export function readScript(value: unknown, level: Level): Script {
  assertTame(value, 'run')
  const result = scriptSchema.safeParse(value)
  if (!result.success) throw errorOf(result.error, ['run'])
  const { commands } = result.data
  let now = level
  commands.forEach((command, k) => {
    const at = `run.commands.${k}`
    if (command.step < (commands[k - 1]?.step ?? 0))
      throw new LevelError('not-valid', `${at}.step`, 'comes before the one above it')
    if (command.do !== 'edit') return
    try {
      now = readLevel(applyPatch(now, command.patch))
    } catch (error) {
      throw new LevelError('not-valid', `${at}.patch`, `makes no level: ${(error as Error).message}`)
    }
  })
  return result.data
}
