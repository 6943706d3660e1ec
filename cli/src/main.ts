import { LANE_WRITERS } from '@tidytrail/core/formats'
import { Command, InvalidArgumentError, Option } from 'commander'
import { check } from './commands/check'
import { demo } from './commands/demo'
import { lanes } from './commands/lanes'
import { rehearse } from './commands/rehearse'
import { trial } from './commands/trial'
import { EXIT } from './exit'

/** A whole number or a decimal from the command line. */
const number = (what: string, min: number, max: number, whole: boolean) => (text: string) => {
  const value = Number(text)
  if (
    text.trim() === '' ||
    !Number.isFinite(value) ||
    (whole && !Number.isInteger(value)) ||
    value < min ||
    value > max
  ) {
    throw new InvalidArgumentError(`${what} must be a ${whole ? 'whole ' : ''}number from ${min} to ${max}.`)
  }
  return value
}

const format = () => new Option('--format <format>', 'how to print').choices(['text', 'json']).default('text')

const program = new Command('tidytrail')
  .description('Check and rehearse Tidy Trail levels, without server or database.')
  .version('0.1.0')
  .exitOverride((error) => {
    process.exitCode = error.exitCode === 0 ? 0 : EXIT.unreadable
    throw error
  })

program
  .command('check')
  .description('Print the findings of a level file. Exits with 0 without blockers, 1 with, 2 when it cannot be read.')
  .argument('<file>')
  .addOption(format())
  .action(async (file: string, options) => void (process.exitCode = await check(file, options)))

program
  .command('rehearse')
  .description(
    'Rehearse a level file; a run saved with it is repeated. Exits with 0 when all follow, 1 when not, 2 when it cannot be read.',
  )
  .argument('<file>')
  .option('--seed <n>', 'seed of the run', number('The seed', 0, 0x7fffffff, true))
  .option('--seconds <s>', 'length of the run', number('The length', 0, 7200, false))
  .addOption(format())
  .option('--positions <file>', 'write time, place, heading, speed and state of everybody to a CSV file')
  .action(async (file: string, options) => void (process.exitCode = await rehearse(file, options)))

program
  .command('trial')
  .description(
    'Try the trials of a level file in rehearsals. Exits with 0 when none fails, 1 when one does, 2 when there is nothing to try.',
  )
  .argument('<file>')
  .option('--seed <n>', 'first seed', number('The seed', 0, 0x7fffffff, true))
  .option('--seeds <n>', 'how many seeds, from the first on', number('How many seeds', 1, 1000, true))
  .option('--seconds <s>', 'length of each run', number('The length', 1, 7200, false))
  .addOption(format())
  .action(async (file: string, options) => void (process.exitCode = await trial(file, options)))

program
  .command('lanes')
  .description('Write the lanes of a level file in an open format. Says what of the level is not in it.')
  .argument('<file>')
  .addOption(
    new Option('--as <format>', 'which format').choices(LANE_WRITERS.map((w) => w.id)).default(LANE_WRITERS[0].id),
  )
  .option('--out <file>', 'where to write; printed when left out')
  .action(async (file: string, options) => void (process.exitCode = await lanes(file, options)))

program
  .command('demo')
  .description('List the demo levels, or write them as files.')
  .argument('[name]', 'one level; all of the shelf when left out and --out is given')
  .option('--out <dir>', 'where to write')
  .action(async (name: string | undefined, options) => void (process.exitCode = await demo(name, options)))

try {
  await program.parseAsync()
} catch (error) {
  // Commander has printed its own message already.
  if (!(error instanceof Error && 'exitCode' in error)) throw error
}
