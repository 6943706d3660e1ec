import { QueryTypes, Sequelize } from 'sequelize'
import { SequelizeStorage, Umzug } from 'umzug'
import { defineModels, type Models } from './models'
import { MIGRATIONS } from './migrations'

export interface Database {
  readonly sequelize: Sequelize
  readonly models: Models
  close(): Promise<void>
}

/** Connects and brings the tables up to date. */
export async function openDatabase(url: string): Promise<Database> {
  const sequelize = new Sequelize(url, {
    dialect: 'mariadb',
    logging: false,
    pool: { max: 8, acquire: 20_000 },
    dialectOptions: { connectTimeout: 5_000, maxAllowedPacket: 256 * 1024 * 1024 },
    define: { underscored: true, timestamps: false },
  })
  const models = defineModels(sequelize)
  const umzug = new Umzug({
    migrations: MIGRATIONS,
    context: sequelize.getQueryInterface(),
    storage: new SequelizeStorage({ sequelize, tableName: 'migrations' }),
    logger: undefined,
  })
  // Several processes may start at once; one of them migrates while the others wait.
  await sequelize.transaction(async (transaction) => {
    await sequelize.query("SELECT GET_LOCK('tidytrail_migrate', 60)", { transaction, type: QueryTypes.SELECT })
    try {
      await umzug.up()
    } finally {
      await sequelize.query("SELECT RELEASE_LOCK('tidytrail_migrate')", { transaction, type: QueryTypes.SELECT })
    }
  })
  return { sequelize, models, close: () => sequelize.close() }
}
