import { DataTypes, type QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

/** Assets by content hash, in chunks small enough for any server's packet limit. */
export const assets: RunnableMigration<QueryInterface> = {
  name: '0002-assets',
  async up({ context: db }) {
    await db.createTable(
      'assets',
      {
        hash: { type: DataTypes.CHAR(64), primaryKey: true },
        bytes: { type: DataTypes.INTEGER, allowNull: false },
        type: { type: DataTypes.STRING(60), allowNull: false },
        created_at: { type: DataTypes.DATE(3), allowNull: false },
      },
      { charset: 'utf8mb4', engine: 'InnoDB' },
    )
    await db.createTable(
      'asset_chunks',
      {
        hash: {
          type: DataTypes.CHAR(64),
          primaryKey: true,
          references: { model: 'assets', key: 'hash' },
          onDelete: 'CASCADE',
        },
        number: { type: DataTypes.INTEGER, primaryKey: true },
        bytes: { type: DataTypes.BLOB('medium'), allowNull: false },
      },
      { charset: 'utf8mb4', engine: 'InnoDB' },
    )
  },
  async down({ context: db }) {
    await db.dropTable('asset_chunks')
    await db.dropTable('assets')
  },
}
