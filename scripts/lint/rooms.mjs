/**
 * The import rules of the house as an ESLint rule: which room may import which, and that nobody reaches past a room's
 * public face. See docs/architecture.md.
 */
import path from 'node:path'

/** The order of the core's rooms: each may use those before it. */
const CORE_ORDER = [
  'geometry',
  'level',
  'ground',
  'reach',
  'network',
  'traffic',
  'circuit',
  'survey',
  'rehearsal',
  'insight',
  'checks',
]

/** What each room may import, beside itself. A core room is named `core/<room>`. */
const ALLOWED = new Map([
  ...CORE_ORDER.map((room, i) => [`core/${room}`, CORE_ORDER.slice(0, i).map((r) => `core/${r}`)]),
  ['core/formats', ['core/level', 'core/geometry', 'core/ground', 'core/traffic']],
  ['core/testing', ['core']],
  ['contract', ['core/level']],
  ['demo', ['core']],
  ['server', ['core', 'contract', 'demo']],
  ['web', ['core', 'contract']],
  ['cli', ['core', 'contract', 'demo']],
])

/** @param {string} root @param {string} file */
export function roomOf(root, file) {
  const parts = path.relative(root, file).split(path.sep)
  return parts[0] === 'core' && parts.length > 2 ? `core/${parts[1]}` : parts[0]
}

/** @param {string} specifier */
function targetRoom(specifier) {
  const match = /^@tidytrail\/(\w+)(?:\/(\w+))?/.exec(specifier)
  if (!match) return undefined
  return match[1] === 'core' ? `core/${match[2]}` : match[1]
}

/**
 * Why an import is not allowed, or undefined when it is.
 * @param {string} root @param {string} file @param {string} specifier
 */
export function refusal(root, file, specifier) {
  const from = roomOf(root, file)
  const isTest = /\.test\.ts$/.test(file)
  if (from.startsWith('core/') && /^node:/.test(specifier) && !isTest) {
    return `core has no Node built-ins, but ${from} imports ${specifier}`
  }
  // Files beside the rooms configure them and belong to none.
  const outside = path.dirname(file) === root
  if (specifier.startsWith('.')) {
    if (outside) return undefined
    const to = roomOf(root, path.resolve(path.dirname(file), specifier, 'x'))
    // Scripts are plain files without a package; the harnesses use them as they are. The tests of the lists of kinds
    // put a made-up one into them, which no public face allows.
    return to === from || to === 'scripts' || /\/kinds\.test\.ts$/.test(file)
      ? undefined
      : `${from} reaches into ${to} by a relative path; import its public face instead`
  }
  const to = targetRoom(specifier)
  const allowed = ALLOWED.get(from)
  if (!to || !allowed || to === from) return undefined
  if (specifier.split('/').length > (to.startsWith('core/') ? 3 : 2))
    return `${specifier} reaches past the public face of ${to}`
  // A test of the core may look at what comes of it in any other room.
  if (isTest && from.startsWith('core/') && to.startsWith('core/')) return undefined
  if (to === 'core/testing' && isTest) return undefined
  if (allowed.includes(to) || (to.startsWith('core/') && allowed.includes('core'))) return undefined
  return `${from} may not import ${to}`
}

/** @type {import('eslint').Rule.RuleModule} */
export const rooms = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const check = (node) => {
      if (!node.source) return
      const why = refusal(context.cwd, context.filename, String(node.source.value))
      if (why) context.report({ node: node.source, message: why })
    }
    return {
      ImportDeclaration: check,
      ExportNamedDeclaration: check,
      ExportAllDeclaration: check,
      ImportExpression: check,
    }
  },
}
