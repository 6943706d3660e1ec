import { z } from 'zod'

// The page's content policy allows no code made from text, which Zod would otherwise try. Import this before any schema.
z.config({ jitless: true })
