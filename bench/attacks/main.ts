/** `npm run attack -- NAME …`: the attacks the program has to stand, each with a seed that is printed. */
import { runDisk } from './disk'
import { runStarts } from './starts'
import { runStorm } from './storm'

const ATTACKS: Record<string, (words: string[]) => Promise<boolean>> = {
  starts: runStarts,
  storm: runStorm,
  disk: runDisk,
}

const [name, ...words] = process.argv.slice(2)
const chosen = name === undefined ? Object.keys(ATTACKS) : [name]
let held = true
for (const n of chosen) {
  const attack = ATTACKS[n]
  if (!attack) {
    process.stderr.write(`there is no attack ${n}; there are ${Object.keys(ATTACKS).join(', ')}\n`)
    process.exit(2)
  }
  held = (await attack(words)) && held
}
process.exit(held ? 0 : 1)
