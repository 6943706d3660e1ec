import { checkReportSchema, openApiDocument, rehearseReportSchema, trialReportSchema } from '@tidytrail/contract'
import { CHECKS, RUN_CHECKS } from '@tidytrail/core/checks'
import { levelSchema } from '@tidytrail/core/level'
import { z } from 'zod'

const json = (value: unknown) => `${JSON.stringify(value, null, 2)}\n`

/** The generated files of docs/, by name. */
export function schemaDocuments(): Record<string, string> {
  const options = { io: 'input', unrepresentable: 'any' } as const
  const checks = CHECKS.map(
    (c) =>
      `# \`${c.id}\`\n\n${c.sentence}\n\nStage: ${c.stage}. Severity: ${c.severity}. Source: \`core/checks/list/${c.id.replace('.', '-')}.ts\`.\n`,
  )
  const runChecks = RUN_CHECKS.map(
    (c) =>
      `# \`${c.id}\`\n\n${c.sentence}\n\nStage: ${c.stage}. Severity: ${c.severity}. Source: \`core/checks/rehearsed.ts\`.\n`,
  )
  return {
    'level.schema.json': json({ title: 'Tidy Trail level, version 1', ...z.toJSONSchema(levelSchema, options) }),
    'check-report.schema.json': json({ title: 'tidytrail check --format json', ...z.toJSONSchema(checkReportSchema) }),
    'rehearse-report.schema.json': json({
      title: 'tidytrail rehearse --format json',
      ...z.toJSONSchema(rehearseReportSchema),
    }),
    'trial-report.schema.json': json({
      title: 'tidytrail trial --format json',
      ...z.toJSONSchema(trialReportSchema),
    }),
    'openapi.json': json(openApiDocument('0.1.0')),
    ...Object.fromEntries(CHECKS.map((c, i) => [`checks/${c.id}.md`, checks[i]])),
    ...Object.fromEntries(RUN_CHECKS.map((c, i) => [`checks/${c.id}.md`, runChecks[i]])),
  }
}
