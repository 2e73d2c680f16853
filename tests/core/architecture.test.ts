import { readdirSync, readFileSync, statSync } from 'node:fs'
import { dirname, join, normalize } from 'node:path'
import { describe, expect, test } from 'vitest'

/** The shape of the code, as docs/architecture.md has it. */

const under = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? under(path) : /\.tsx?$/.test(name) ? [path] : []
  })
const FILES = under('src')
const known = new Set(FILES)
const text = new Map(FILES.map((file) => [file, readFileSync(file, 'utf8')]))

/** The files that a file takes values from; what is imported as types alone does not count. */
function importsOf(file: string): string[] {
  const found: string[] = []
  for (const [, type, what, from] of (text.get(file) as string).matchAll(/^(?:import|export)\s+(type\s+)?([^'";]*?)from '([^']+)'/gm)) {
    const names = /^\{([^}]*)\}\s*$/.exec(what)
    if (type || names?.[1].split(',').every((name) => name.trim() === '' || name.trim().startsWith('type '))) continue
    const base = from.startsWith('@/') ? `src/${from.slice(2)}` : from.startsWith('.') ? normalize(join(dirname(file), from)) : null
    if (base === null) continue
    const target = ['.ts', '.tsx', '/index.ts'].map((end) => base + end).find((path) => known.has(path))
    if (target) found.push(target)
  }
  return found
}

test('no file imports itself by way of others', () => {
  const done = new Set<string>()
  const circles: string[] = []
  const visit = (file: string, path: string[]) => {
    if (path.includes(file)) circles.push([...path.slice(path.indexOf(file)), file].join(' → '))
    if (done.has(file) || path.includes(file)) return
    for (const next of importsOf(file)) visit(next, [...path, file])
    done.add(file)
  }
  for (const file of FILES) visit(file, [])
  expect(circles).toEqual([])
})

test('no file is longer than can be read at a sitting', () => {
  // A migration that was handed out never changes.
  const all = [...FILES, ...['tests', 'e2e', 'bench', 'demo'].flatMap(under)].filter((file) => !file.startsWith('src/db/migrations/'))
  const long = all.filter((file) => readFileSync(file, 'utf8').split('\n').length > 351)
  expect(long).toEqual([])
})

describe('floors', () => {
  const inside = (folder: string) => FILES.filter((file) => file.startsWith(`${folder}/`))

  test('a use case holds no SQL: rows are read and written by the stores', () => {
    const SQL =
      /\b(db\(\)|trx)(\(['"`]|\.raw\b|\s*\n?\s*\.(select|from|insert|where)\b)|\.raw\(|\.(where|whereIn|forUpdate|orderBy|leftJoin)\(/
    expect(inside('src/usecases').filter((file) => SQL.test(text.get(file) as string))).toEqual([])
  })

  test('no arrow points up: core knows nobody, stores know core, use cases know both', () => {
    const UP: [string, RegExp][] = [
      ['src/core', /from '@\/(db|engine|usecases|ui|app|jobs|formats)\//],
      ['src/db', /from '@\/(engine|usecases|ui|app|jobs)\//],
      ['src/engine', /from '@\/(usecases|ui|app|jobs)\//],
      ['src/usecases', /from '@\/(ui|app|jobs)\//],
      ['src/ui', /from '@\/(db|engine|usecases|app|jobs)\//],
    ]
    expect(UP.flatMap(([floor, up]) => inside(floor).filter((file) => up.test(text.get(file) as string)))).toEqual([])
  })
})

describe('rooms', () => {
  const ROOMS = ['lists', 'rounds', 'screening', 'changes', 'contact', 'directory', 'intake', 'sources', 'team']
  test.each([
    ['src/usecases', ['work']],
    ['src/ui', ['book', 'forms', 'tables']],
    ['src/db', ['migrations', 'work']],
    ['src/app/(book)', ['today', 'words']],
    ['src/app/api', []],
    ['e2e', ['support']],
    ['tests/db', ['work']],
  ])('%s has the rooms of the product, and folders that say what is shared', (floor, shared) => {
    const folders = readdirSync(floor).filter((name) => statSync(join(floor, name)).isDirectory())
    expect(folders.map((name) => name.replace(/[()]/g, '')).filter((name) => ![...ROOMS, ...shared].includes(name))).toEqual([])
  })

  test('every use case and every component stands in one', () => {
    expect(FILES.filter((file) => /^src\/(usecases|ui)\/[^/]+$/.test(file))).toEqual([])
  })
})
