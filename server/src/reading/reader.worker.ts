import { serve } from '../threads/serve'
import { readNewLevel } from './reader'

serve({ readNewLevel, close: () => {} }, (line) => process.stderr.write(`${line}\n`))
