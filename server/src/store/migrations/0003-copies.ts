import type { QueryInterface } from 'sequelize'
import type { RunnableMigration } from 'umzug'

/**
 * Documents move out of the rows that every save changes, into copies made now and then; edit ids are told apart by
 * case; what the shelf draws is kept beside the level. Each statement can be run again after half a run.
 */
export const copies: RunnableMigration<QueryInterface> = {
  name: '0003-copies',
  async up({ context: db }) {
    const run = (sql: string) => db.sequelize.query(sql)
    await run(`CREATE TABLE IF NOT EXISTS copies (
      level_id VARCHAR(40) NOT NULL, revision INT NOT NULL, saved_at DATETIME(3) NOT NULL, document LONGTEXT NOT NULL,
      PRIMARY KEY (level_id, revision),
      CONSTRAINT copies_level FOREIGN KEY (level_id) REFERENCES levels (id) ON DELETE CASCADE
    ) CHARACTER SET utf8mb4 ENGINE InnoDB`)
    await run(`CREATE TABLE IF NOT EXISTS summaries (
      level_id VARCHAR(40) NOT NULL PRIMARY KEY, revision INT NOT NULL, summary LONGTEXT NOT NULL,
      CONSTRAINT summaries_level FOREIGN KEY (level_id) REFERENCES levels (id) ON DELETE CASCADE
    ) CHARACTER SET utf8mb4 ENGINE InnoDB`)
    for (const [table, id, savedAt] of [
      ['revisions', 'level_id', 'saved_at'],
      ['levels', 'id', 'changed_at'],
    ]) {
      const columns = await db.describeTable(table)
      if (columns.document)
        await run(
          `INSERT IGNORE INTO copies (level_id, revision, saved_at, document)
           SELECT ${id}, revision, ${savedAt}, document FROM ${table} WHERE document IS NOT NULL`,
        )
    }
    await run('ALTER TABLE revisions DROP COLUMN IF EXISTS document')
    await run('ALTER TABLE levels DROP COLUMN IF EXISTS document')
    await run('ALTER TABLE revisions MODIFY edit_id VARCHAR(64) CHARACTER SET ascii COLLATE ascii_bin NULL')
    await run(
      'ALTER TABLE revisions ADD COLUMN IF NOT EXISTS digest CHAR(32) CHARACTER SET ascii COLLATE ascii_bin NULL',
    )
    await run('CREATE INDEX IF NOT EXISTS levels_deleted ON levels (deleted_at)')
  },
}
