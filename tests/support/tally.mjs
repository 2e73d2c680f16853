import { existsSync, readFileSync } from 'node:fs'

// Adds up what each part reported. A part that left no report has failed.
const [folder, ...parts] = process.argv.slice(2)
const total = { passed: 0, failed: 0, skipped: 0 }
const read = (name) => (existsSync(`${folder}/${name}`) ? JSON.parse(readFileSync(`${folder}/${name}`, 'utf8')) : null)
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
      const stats = read(`playwright-${county}.json`)?.stats
      add(`${part}, ${county} county`, stats && { passed: stats.expected + stats.flaky, failed: stats.unexpected, skipped: stats.skipped })
    }
  } else {
    const report = read(`vitest-${part}.json`)
    const broken =
      report?.testResults.filter((file) => file.status === 'failed' && file.assertionResults.every((r) => r.status !== 'failed')).length ??
      0
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
console.log(`${total.passed} passed, ${total.failed} failed${total.skipped > 0 ? `, ${total.skipped} skipped` : ''}`)
process.exit(total.failed > 0 || total.passed === 0 ? 1 : 0)
