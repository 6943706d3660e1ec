/**
 * A generator that is called and not run does nothing at all, and nothing complains. Calling one as a statement is an
 * error, whether it is declared in the file or in one that is imported by a path.
 */
import { existsSync, readFileSync } from 'node:fs'
import path from 'node:path'

const declares = (text, name) => new RegExp(`function\\s*\\*\\s*${name}\\b`).test(text)

/** The text of the file an import leads to; nothing for packages. @param {string} from @param {string} specifier */
function imported(from, specifier) {
  if (!specifier.startsWith('.')) return ''
  const file = path.resolve(path.dirname(from), specifier)
  const found = [file, `${file}.ts`, path.join(file, 'index.ts')].find((f) => /\.ts$/.test(f) && existsSync(f))
  return found ? readFileSync(found, 'utf8') : ''
}

/** @type {import('eslint').Rule.RuleModule} */
export const runGenerators = {
  meta: { type: 'problem', schema: [] },
  create(context) {
    const sources = new Map()
    return {
      ImportDeclaration(node) {
        for (const s of node.specifiers)
          if (s.type === 'ImportSpecifier')
            sources.set(s.local.name, { specifier: String(node.source.value), name: s.imported.name })
      },
      ExpressionStatement({ expression }) {
        if (expression.type !== 'CallExpression' || expression.callee.type !== 'Identifier') return
        const { name } = expression.callee
        const source = sources.get(name)
        const text = source ? imported(context.filename, source.specifier) : context.sourceCode.text
        if (declares(text, source?.name ?? name))
          context.report({
            node: expression,
            message: `${name} is a generator: called like this nothing of it is done`,
          })
      },
    }
  },
}
