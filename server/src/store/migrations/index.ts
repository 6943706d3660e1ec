import type { QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'
import { levelsAndRevisions } from './0001-levels-and-revisions'
import { assets } from './0002-assets'

/** In order; a migration that has landed is never changed. */
export const MIGRATIONS: RunnableMigration<QueryInterface>[] = [levelsAndRevisions, assets]
