import { DataTypes, Model, type InferAttributes, type InferCreationAttributes, type Sequelize } from 'sequelize'

/** A level as it is now. */
export class LevelRow extends Model<InferAttributes<LevelRow>, InferCreationAttributes<LevelRow>> {
  declare id: string
  declare name: string
  declare revision: number
  declare createdAt: Date
  declare changedAt: Date
  declare deletedAt: Date | null
}

/** One accepted change of a level. */
export class RevisionRow extends Model<InferAttributes<RevisionRow>, InferCreationAttributes<RevisionRow>> {
  declare levelId: string
  declare revision: number
  declare editId: string | null
  declare savedAt: Date
  /** JSON Patch from the revision before, and back to it, as JSON text. */
  declare patch: string
  declare inverse: string
  /** What was sent, as a hash: a batch sent again must be the same. */
  declare digest: string | null
}

/** A level's whole document as JSON text, at one of its revisions. */
export class CopyRow extends Model<InferAttributes<CopyRow>, InferCreationAttributes<CopyRow>> {
  declare levelId: string
  declare revision: number
  declare savedAt: Date
  declare document: string
}

/** What the shelf shows of a level, as JSON text, at one of its revisions. */
export class SummaryRow extends Model<InferAttributes<SummaryRow>, InferCreationAttributes<SummaryRow>> {
  declare levelId: string
  declare revision: number
  declare summary: string
}

/** Something imported, named by the SHA-256 of its bytes. */
export class AssetRow extends Model<InferAttributes<AssetRow>, InferCreationAttributes<AssetRow>> {
  declare hash: string
  declare bytes: number
  declare type: string
  declare createdAt: Date
}

/** A stretch of an asset's bytes. */
export class AssetChunkRow extends Model<InferAttributes<AssetChunkRow>, InferCreationAttributes<AssetChunkRow>> {
  declare hash: string
  declare number: number
  declare bytes: Buffer
}

export interface Models {
  AssetRow: typeof AssetRow
  AssetChunkRow: typeof AssetChunkRow
  LevelRow: typeof LevelRow
  RevisionRow: typeof RevisionRow
  CopyRow: typeof CopyRow
  SummaryRow: typeof SummaryRow
}

export function defineModels(sequelize: Sequelize): Models {
  const long = DataTypes.TEXT('long')
  class Levels extends LevelRow {}
  class Revisions extends RevisionRow {}
  class Copies extends CopyRow {}
  class Summaries extends SummaryRow {}
  class Assets extends AssetRow {}
  class AssetChunks extends AssetChunkRow {}
  Levels.init(
    {
      id: { type: DataTypes.STRING(40), primaryKey: true },
      name: DataTypes.STRING(200),
      revision: DataTypes.INTEGER,
      createdAt: DataTypes.DATE(3),
      changedAt: DataTypes.DATE(3),
      deletedAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'levels' },
  )
  Revisions.init(
    {
      levelId: { type: DataTypes.STRING(40), primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      editId: DataTypes.STRING(64),
      savedAt: DataTypes.DATE(3),
      patch: long,
      inverse: long,
      digest: DataTypes.CHAR(32),
    },
    { sequelize, tableName: 'revisions' },
  )
  Copies.init(
    {
      levelId: { type: DataTypes.STRING(40), primaryKey: true },
      revision: { type: DataTypes.INTEGER, primaryKey: true },
      savedAt: DataTypes.DATE(3),
      document: long,
    },
    { sequelize, tableName: 'copies' },
  )
  Summaries.init(
    { levelId: { type: DataTypes.STRING(40), primaryKey: true }, revision: DataTypes.INTEGER, summary: long },
    { sequelize, tableName: 'summaries' },
  )
  Assets.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      bytes: DataTypes.INTEGER,
      type: DataTypes.STRING(60),
      createdAt: DataTypes.DATE(3),
    },
    { sequelize, tableName: 'assets' },
  )
  AssetChunks.init(
    {
      hash: { type: DataTypes.CHAR(64), primaryKey: true },
      number: { type: DataTypes.INTEGER, primaryKey: true },
      bytes: DataTypes.BLOB('medium'),
    },
    { sequelize, tableName: 'asset_chunks' },
  )
  return {
    LevelRow: Levels,
    RevisionRow: Revisions,
    CopyRow: Copies,
    SummaryRow: Summaries,
    AssetRow: Assets,
    AssetChunkRow: AssetChunks,
  }
}
