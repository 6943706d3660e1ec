/**
 * Zod as all of the page gets it (the build leads every import of `zod` here). The page's content policy allows no code
 * made from text, which Zod would try with the first schema that is made, so it is told before any can be.
 */
import { config } from 'zod/v4'

config({ jitless: true })

export * from 'zod/v4'
