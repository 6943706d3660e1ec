import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

export const levelsAndRevisions: RunnableMigration<QueryInterface> = {
  name: '0001-levels-and-revisions',
  async up({ context: db }) {
    const long = DataTypes.TEXT('long')
    const when = { type: DataTypes.DATE(3), allowNull: false }
    await db.createTable(
      'levels',
      {
        id: { type: DataTypes.STRING(40), primaryKey: true },
        name: { type: DataTypes.STRING(200), allowNull: false },
        revision: { type: DataTypes.INTEGER, allowNull: false },
        document: { type: long, allowNull: false },
        created_at: when,
        changed_at: when,
        deleted_at: { type: DataTypes.DATE(3), allowNull: true },
      },
      { charset: 'utf8mb4', engine: 'InnoDB' },
    )
    await db.createTable(
      'revisions',
      {
        level_id: {
          type: DataTypes.STRING(40),
          primaryKey: true,
          references: { model: 'levels', key: 'id' },
          onDelete: 'CASCADE',
        },
        revision: { type: DataTypes.INTEGER, primaryKey: true },
        edit_id: { type: DataTypes.STRING(64), allowNull: true },
        saved_at: when,
        patch: { type: long, allowNull: false },
        inverse: { type: long, allowNull: false },
        document: { type: long, allowNull: true },
      },
      { charset: 'utf8mb4', engine: 'InnoDB' },
    )
    // As everything here, this can be run again after half a run.
    await db.sequelize.query('CREATE UNIQUE INDEX IF NOT EXISTS revisions_edit ON revisions (level_id, edit_id)')
  },
  async down({ context: db }) {
    await db.dropTable('revisions')
    await db.dropTable('levels')
  },
}
