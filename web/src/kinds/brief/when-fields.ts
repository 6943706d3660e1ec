import { fieldsIn, whenKind, type BriefWhen, type FieldSpec } from '@tidytrail/core/level'

/** The fields of a standing sentence, as its schema tells them. */
export function whenFields(when: BriefWhen): readonly FieldSpec[] {
  const { schema, refs = [] } = whenKind(when)
  return fieldsIn(schema, when, (path) => refs.find((r) => r.path === path.join('.'))?.to as never)
}
