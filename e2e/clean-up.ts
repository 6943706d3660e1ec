import { rmSync } from 'node:fs'

/** Removes the folder the tests' database lived in. */
export default function cleanUp(): void {
  const data = process.env.TIDYTRAIL_TEST_DATA
  if (data?.includes('tidytrail-browser-')) rmSync(data, { recursive: true, force: true })
}
