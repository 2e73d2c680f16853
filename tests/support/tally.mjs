import { existsSync, readFileSync } from 'node:fs'
import { stripVTControlCharacters } from 'node:util'

// Adds up what each part reported. A part that left no report has failed.
const [folder, ...parts] = process.argv.slice(2)
const total = { passed: 0, failed: 0, skipped: 0 }
/** What failed, said again at the end: of a long run often only the end is kept. */
const failures = []
const plain = (text) => stripVTControlCharacters(text).trim()
const read = (name) => (existsSync(`${folder}/${name}`) ? JSON.parse(readFileSync(`${folder}/${name}`, 'utf8')) : null)
/** The tests of a browser report that failed, with what the page held then. */
const failedIn = (suite) => [
  ...(suite.suites ?? []).flatMap(failedIn),
  ...(suite.specs ?? []).flatMap((spec) =>
    spec.tests.flatMap(({ results }) =>
      results
        .filter(({ errors }) => errors.length > 0)
        .map(({ errors, attachments }) => {
          const context = attachments.find(({ name, path }) => name === 'error-context' && path && existsSync(path))
          const page = context ? `\n${(readFileSync(context.path, 'utf8').split('```yaml')[1] ?? '').split('```')[0].slice(0, 3000)}` : ''
          return {
            where: `${spec.file}: ${spec.title}`,
            said: `${errors.map(({ message }) => plain(message ?? '').slice(0, 2000)).join('\n')}${page}`,
          }
        }),
    ),
  ),
]
const add = (part, counts) => {
  if (!counts || counts.passed + counts.failed === 0) {
    console.log(`${part}: no test ran`)
    total.failed++
    return
  }
  for (const key of Object.keys(total)) total[key] += counts[key]
}
for (const part of parts) {
  if (part === 'types' || part === 'lint') add(part, read(`${part}.json`))
  else if (part === 'e2e') {
    for (const county of ['first', 'second']) {
      const report = read(`playwright-${county}.json`)
      const stats = report?.stats
      failures.push(...(report?.suites ?? []).flatMap(failedIn))
      add(`${part}, ${county} county`, stats && { passed: stats.expected + stats.flaky, failed: stats.unexpected, skipped: stats.skipped })
    }
  } else {
    const report = read(`vitest-${part}.json`)
    const broken =
      report?.testResults.filter((file) => file.status === 'failed' && file.assertionResults.every((r) => r.status !== 'failed')).length ??
      0
    for (const file of report?.testResults ?? [])
      if (file.status === 'failed') {
        const failed = file.assertionResults.filter((r) => r.status === 'failed')
        if (failed.length === 0) failures.push({ where: file.name, said: plain(file.message ?? '').slice(0, 2000) })
        for (const { fullName, failureMessages } of failed)
          failures.push({ where: `${file.name}: ${fullName}`, said: plain(failureMessages.join('\n')).slice(0, 2000) })
      }
    add(
      part,
      report && {
        passed: report.numPassedTests,
        failed: report.numFailedTests + broken,
        skipped: report.numPendingTests + report.numTodoTests,
      },
    )
  }
}
for (const { where, said } of failures) console.log(`\n== failed: ${where}\n${said}`)
console.log(`${total.passed} passed, ${total.failed} failed${total.skipped > 0 ? `, ${total.skipped} skipped` : ''}`)
process.exit(total.failed > 0 || total.passed === 0 ? 1 : 0)
