import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

const TABLE = { charset: 'utf8mb4', engine: 'InnoDB' } as const

/** Jobs and the parts they are made of, which are claimed one by one; and rehearsals that are kept, in stretches. */
export const jobsAndRehearsals: RunnableMigration<QueryInterface> = {
  name: '0004-jobs-and-rehearsals',
  async up({ context: db }) {
    const long = DataTypes.TEXT('long')
    const when = { type: DataTypes.DATE(3), allowNull: false }
    const level = {
      type: DataTypes.STRING(40),
      allowNull: false,
      references: { model: 'levels', key: 'id' },
      onDelete: 'CASCADE',
    }
    await db.createTable(
      'jobs',
      {
        id: { type: DataTypes.STRING(40), primaryKey: true },
        level_id: level,
        kind: { type: DataTypes.STRING(40), allowNull: false },
        state: { type: DataTypes.STRING(12), allowNull: false },
        input: { type: long, allowNull: false },
        document: { type: long, allowNull: false },
        error: { type: DataTypes.STRING(500), allowNull: true },
        created_at: when,
      },
      TABLE,
    )
    await db.createTable(
      'job_parts',
      {
        job_id: {
          type: DataTypes.STRING(40),
          primaryKey: true,
          references: { model: 'jobs', key: 'id' },
          onDelete: 'CASCADE',
        },
        number: { type: DataTypes.INTEGER, primaryKey: true },
        state: { type: DataTypes.STRING(12), allowNull: false },
        claim: { type: DataTypes.STRING(64), allowNull: true },
        beat_at: { type: DataTypes.DATE(3), allowNull: true },
        tries: { type: DataTypes.INTEGER, allowNull: false, defaultValue: 0 },
        result: { type: long, allowNull: true },
        done_at: { type: DataTypes.DATE(3), allowNull: true },
      },
      TABLE,
    )
    await db.sequelize.query('CREATE INDEX IF NOT EXISTS job_parts_open ON job_parts (state, beat_at)')
    await db.createTable(
      'rehearsals',
      {
        id: { type: DataTypes.STRING(40), primaryKey: true },
        level_id: level,
        revision: { type: DataTypes.INTEGER, allowNull: false },
        name: { type: DataTypes.STRING(200), allowNull: false },
        about: { type: long, allowNull: false },
        bytes: { type: DataTypes.INTEGER, allowNull: false },
        /** Is all of it there? Until then nobody sees it. */
        whole: { type: DataTypes.BOOLEAN, allowNull: false },
        created_at: when,
      },
      TABLE,
    )
    await db.createTable(
      'rehearsal_chunks',
      {
        rehearsal_id: {
          type: DataTypes.STRING(40),
          primaryKey: true,
          references: { model: 'rehearsals', key: 'id' },
          onDelete: 'CASCADE',
        },
        number: { type: DataTypes.INTEGER, primaryKey: true },
        bytes: { type: DataTypes.BLOB('medium'), allowNull: false },
      },
      TABLE,
    )
  },
  async down({ context: db }) {
    for (const table of ['rehearsal_chunks', 'rehearsals', 'job_parts', 'jobs']) await db.dropTable(table)
  },
}
