/** A process that does jobs, for tests that end it: says on standard output which parts it has brought to their end. */
import { JobPool } from '../src/jobs/pool'
import { JobQueue } from '../src/jobs/queue'
import { connect } from '../src/store/database'

const [url, name, silentS] = process.argv.slice(2)
const queue = new JobQueue(connect(url), Number(silentS))
new JobPool(queue, {
  databaseUrl: url,
  threads: 1,
  name,
  finished: ({ jobId, number }) => process.stdout.write(`done ${jobId} ${number}\n`),
})
process.stdout.write('ready\n')
setInterval(() => {}, 1000)
