import type { QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'
import { levelsAndRevisions } from './0001-levels-and-revisions'
import { assets } from './0002-assets'
import { copies } from './0003-copies'
import { jobsAndRehearsals } from './0004-jobs-and-rehearsals'

/** In order; what a migration that has landed leads to is never changed. Each can be run again after half a run. */
export const MIGRATIONS: RunnableMigration<QueryInterface>[] = [levelsAndRevisions, assets, copies, jobsAndRehearsals]
